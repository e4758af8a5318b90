import { useState } from "react";
import type { SheetRow, WritingRow } from "@/api/client";
import { Tick } from "@/ui/Tick";
import { Num, Pick, Typing } from "./fields";
import { FADING, HELPS, isLine, readGoes, textsOf, typedOf, USUAL, writeGoes } from "./rows";

type Props<Row> = { row: Row; onRow: (row: Row) => void };

const LABEL: Record<SheetRow["kind"], string> = {
  writing: "Letters or words",
  gaps: "Words, what is left out in brackets, as n[e]st",
  cards: "Letters or words, a card each",
  sounds: "Words to dictate",
  heading: "In type",
  date: "",
  draw: "",
};

/** A row changed in place: what is on it, and how it goes. */
export function RowEditor({ row, onRow }: Props<SheetRow>) {
  return (
    <div className="flex flex-wrap items-end gap-x-5 gap-y-2 pb-3 pl-8">
      {row.kind !== "date" && row.kind !== "draw" && <Typed row={row} onRow={onRow} />}
      {row.kind === "writing" && <Writing row={row} onRow={onRow} />}
      {row.kind === "date" && (
        <>
          <Goes pattern={row.pattern} onPattern={(pattern) => onRow({ ...row, pattern })} />
          <Num
            label="Lines"
            value={row.rows}
            least={1}
            most={12}
            onValue={(rows) => onRow({ ...row, rows })}
          />
        </>
      )}
      {row.kind === "cards" && (
        <Num
          label="Side by side"
          value={row.across}
          least={1}
          most={8}
          onValue={(across) => onRow({ ...row, across })}
        />
      )}
      {row.kind === "draw" && (
        <Num
          label="Height, mm"
          value={row.height_mm}
          least={10}
          most={250}
          onValue={(height_mm) => onRow({ ...row, height_mm })}
        />
      )}
      {row.kind === "sounds" &&
        row.words.map((word, at) => (
          <Num
            // biome-ignore lint/suspicious/noArrayIndexKey: a word may be dictated twice
            key={at}
            label={`Boxes for ${word.text}`}
            value={word.boxes}
            least={1}
            most={20}
            onValue={(boxes) => onRow({ ...row, words: row.words.with(at, { ...word, boxes }) })}
          />
        ))}
    </div>
  );
}

/** The letters, words or line of a row. */
function Typed({ row, onRow }: Props<SheetRow>) {
  const asLine = row.kind === "writing" && isLine(row);
  const keep = (typed: string) => {
    const texts = textsOf(typed, asLine);
    if (row.kind === "heading") {
      if (typed) onRow({ ...row, text: typed });
    } else if (row.kind === "sounds") {
      const boxes = new Map(row.words.map((word) => [word.text, word.boxes]));
      onRow({ ...row, words: texts.map((text) => ({ text, boxes: boxes.get(text) ?? text.length })) });
    } else if (row.kind === "writing" || row.kind === "gaps" || row.kind === "cards") {
      onRow({ ...row, texts });
    }
  };
  return <Typing label={asLine ? "The line" : LABEL[row.kind]} value={typedOf(row)} onValue={keep} />;
}

function Writing({ row, onRow }: Props<WritingRow>) {
  const toTheFoot = row.rows === null;
  return (
    <>
      {row.texts.length > 0 && (
        <Goes pattern={row.pattern} onPattern={(pattern) => onRow({ ...row, pattern })} />
      )}
      {!toTheFoot && (
        <Num
          label={row.texts.length > 1 && !row.together ? "Lines for each" : "Lines"}
          value={row.rows ?? 1}
          least={1}
          most={60}
          onValue={(rows) => onRow({ ...row, rows })}
        />
      )}
      <Tick on={toTheFoot} onTick={(on) => onRow({ ...row, rows: on ? null : 1 })}>
        To the foot of the page
      </Tick>
      {row.texts.length > 1 && (
        <Tick on={row.together} onTick={(together) => onRow({ ...row, together })}>
          Side by side
        </Tick>
      )}
      <Tick on={row.cut} onTick={(cut) => onRow({ ...row, cut })}>
        To cut out
      </Tick>
    </>
  );
}

const WAYS = [
  [USUAL, "from the model to alone"],
  ["model trace alone*", "model, trace, then alone"],
  ["model ring alone*", "model, ring, then alone"],
  ["model / trace / alone", "model, below it trace, below it alone"],
  [FADING, "fading down the rows"],
  ["model alone*", "model, then alone"],
  ["alone*", "alone only"],
] as const;
const OWN = "own";

/** How a row goes from left to right: one of the usual ways, or so many of each help. */
function Goes({ pattern, onPattern }: { pattern: string; onPattern: (pattern: string) => void }) {
  const known = WAYS.some(([way]) => way === pattern);
  const goes = readGoes(pattern);
  const [own, setOwn] = useState(!known);
  return (
    <>
      <Pick
        label="How it goes"
        value={known && !own ? pattern : OWN}
        options={[...WAYS, [OWN, "my own way"]]}
        onValue={(way) => {
          setOwn(way === OWN);
          if (way !== OWN) onPattern(way);
          else if (!goes) onPattern(USUAL);
        }}
      />
      {own && goes && (
        <>
          {HELPS.map((help) => (
            <Num
              key={help}
              label={help[0]?.toUpperCase() + help.slice(1)}
              value={goes.counts[help]}
              least={0}
              most={12}
              onValue={(count) =>
                onPattern(writeGoes({ ...goes, counts: { ...goes.counts, [help]: count } }))
              }
            />
          ))}
          <Pick
            label="Then, to the end of the line"
            value={goes.fill ?? ""}
            options={[["", "nothing"], ...HELPS.slice(1).map((help) => [help, help] as const)]}
            onValue={(fill) =>
              onPattern(writeGoes({ ...goes, fill: HELPS.find((one) => one === fill) ?? null }))
            }
          />
        </>
      )}
    </>
  );
}
