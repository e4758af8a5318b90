import clsx from "clsx";
import { useState } from "react";
import type { ChildSheet, SheetWish } from "@/api/client";
import { useEachSheets, usePrinting, useSheetPreview } from "@/api/sheets";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";
import { PageView } from "./PageView";
import { PrintButton, Printed } from "./PrintThis";
import { Rows } from "./Rows";
import { sentence } from "./ThisPart";

/** One sheet for each child: what each gets and why, changed or left out, and all of them printed together. */
export function EachPart() {
  const { id } = useClass();
  const query = useEachSheets(id);
  return (
    <Loaded query={query} what="a sheet for each child">
      {(sheets) =>
        sheets.length ? <Each sheets={sheets} /> : <Empty title="There is no child in this class yet." />
      }
    </Loaded>
  );
}

function Each({ sheets }: { sheets: ChildSheet[] }) {
  const { id } = useClass();
  const { print } = usePrinting(id);
  const [chosen, setChosen] = useState(sheets[0]?.child.id ?? 0);
  const [out, setOut] = useState<number[]>([]);
  const [changed, setChanged] = useState<Record<number, SheetWish>>({});
  const wishOf = (one: ChildSheet) => changed[one.child.id] ?? one.wish;
  const going = sheets.filter((one) => !out.includes(one.child.id));
  const at = sheets.find((one) => one.child.id === chosen) ?? sheets[0];
  return (
    <div className="grid grid-cols-[minmax(0,430px)_minmax(0,1fr)] gap-8 max-[1000px]:grid-cols-1">
      {at && (
        <OfChild
          key={at.child.id}
          sheet={at}
          wish={wishOf(at)}
          onWish={(wish) => setChanged({ ...changed, [at.child.id]: { ...wish, pages: null } })}
          onAsItWas={
            changed[at.child.id]
              ? () =>
                  setChanged(
                    Object.fromEntries(
                      Object.entries(changed).filter(([key]) => Number(key) !== at.child.id),
                    ),
                  )
              : undefined
          }
        />
      )}
      <section aria-label="Children" className="flex min-w-0 flex-col border-t-2 border-ink pt-2">
        <b>Who gets what, and why</b>
        <ul className="max-h-[60vh] overflow-y-auto max-[1000px]:max-h-none">
          {sheets.map((one) => {
            const left = out.includes(one.child.id);
            return (
              <li
                key={one.child.id}
                className={clsx("flex items-start gap-3 border-b border-hair", one === at && "bg-ochre/35")}
              >
                <input
                  type="checkbox"
                  aria-label={`A sheet for ${one.child.name}`}
                  checked={!left}
                  onChange={() =>
                    setOut(left ? out.filter((child) => child !== one.child.id) : [...out, one.child.id])
                  }
                  className="mt-2 size-5 accent-ink"
                />
                <button
                  type="button"
                  aria-pressed={one === at}
                  onClick={() => setChosen(one.child.id)}
                  className={clsx(
                    "flex min-w-0 flex-1 gap-3 py-2 text-left",
                    left && "text-graphite line-through",
                  )}
                >
                  <b className="w-24 shrink-0">{one.child.name}</b>
                  <span className="min-w-0 flex-1">
                    {changed[one.child.id] && <i>changed; </i>}
                    {one.why.join("; ")}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
        <div className="mt-3 flex flex-wrap items-center gap-3">
          <span className="mr-auto text-small text-graphite">
            {going.length} of {sheets.length} children, in order of name, each with the name on it. Print at
            100 %, not fitted.
          </span>
          <PrintButton
            disabled={!going.length || print.isPending}
            print={() =>
              print.mutateAsync({
                name: "One for each child",
                copies: going.map((one) => ({ child_id: one.child.id, wish: wishOf(one) })),
              })
            }
          />
        </div>
        <Printed error={print.error} code={print.data?.code} />
      </section>
    </div>
  );
}

type OfChildProps = {
  sheet: ChildSheet;
  wish: SheetWish;
  onWish: (wish: SheetWish) => void;
  onAsItWas: (() => void) | undefined;
};

function OfChild({ sheet, wish, onWish, onAsItWas }: OfChildProps) {
  const { id } = useClass();
  const [changing, setChanging] = useState(false);
  const [row, setRow] = useState<number | null>(null);
  const query = useSheetPreview(id, wish, sheet.child.name);
  return (
    <section aria-label={`The sheet of ${sheet.child.name}`}>
      {query.data && (
        <PageView
          preview={query.data}
          name={`The sheet of ${sheet.child.name}`}
          row={row}
          stale={query.isPlaceholderData}
        />
      )}
      {query.error && (
        <p role="alert" className="text-brick">
          {sentence(query.error.message)}
        </p>
      )}
      <div className="mt-2 flex gap-2">
        <Button pressed={changing} onClick={() => setChanging(!changing)}>
          Change this one
        </Button>
        {onAsItWas && <Button onClick={onAsItWas}>As it was worked out</Button>}
      </div>
      {changing && (
        <div className="mt-3">
          <Rows wish={wish} preview={query.data} row={row} onRow={setRow} onWish={onWish} />
        </div>
      )}
    </section>
  );
}
