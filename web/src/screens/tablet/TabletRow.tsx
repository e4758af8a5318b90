import { type ReactNode, useEffect, useSyncExternalStore } from "react";
import type { TabletSheet, TextModel } from "@/api/client";
import { crossOutWaiting, flush, post, postBest, shelf, watch } from "@/ink/outbox";
import { RowPage, writtenOn } from "@/screens/write/RowPage";
import { showUnderPen } from "./underPen";

const ON_TABLET = { tablet: true };

type Props = {
  sheet: TabletSheet;
  model: TextModel;
  name: string;
  rubs: boolean;
  resting: boolean;
  state: ReactNode;
};

/** A row on a child's tablet. */
export function TabletRow({ sheet, model, name, rubs, resting, state }: Props) {
  const all = useSyncExternalStore(watch, shelf); // what is written may be waiting there
  const best = all.find((one) => "bestOf" in one && one.bestOf === sheet.id);
  const chosen = best && "key" in best ? best.key : sheet.attempts.find((one) => one.best)?.key;
  const written = writtenOn(sheet, sheet.attempts).map((one) => ({ ...one, best: one.key === chosen }));
  const full = written.filter((one) => !one.kept && !one.crossedOut).length >= sheet.to_write.length;
  const draft = {
    page: `row ${sheet.id} ${sheet.started_at}`,
    address: "/tablet",
    what: `${name}, ${sheet.text}`,
  };
  const crossLast = async () => {
    await flush(); // the last attempt may still be on its way
    if (await crossOutWaiting(sheet, ON_TABLET)) return;
    const last = sheet.attempts.findLast((one) => !one.crossed_out);
    if (!last) return;
    const { key, strokes } = last;
    const support = sheet.support[sheet.attempts.indexOf(last)] ?? "alone";
    await post(sheet, { key, strokes, support, crossed_out: true }, draft.page, ON_TABLET);
  };
  useEffect(() => () => showUnderPen(sheet, []), [sheet]);
  return (
    <>
      {state}
      <RowPage
        row={{ ...sheet, letter: sheet.text }}
        name={name}
        letter={model}
        // what is kept on the tablet can be chosen as well as what has been sent
        written={written.map((one) => (full ? { ...one, kept: true } : one))}
        toWrite={full ? [] : sheet.to_write}
        draft={draft}
        rubs={rubs}
        resting={resting}
        keep={(attempt) => post(sheet, attempt, draft.page, ON_TABLET)}
        crossLast={crossLast}
        onPick={(key) => void postBest(sheet, key)}
        endsOnLeaving
        onUnderPen={(strokes) => showUnderPen(sheet, strokes)}
        end={
          <footer className="flex min-h-32 shrink-0 items-center px-10 py-2">
            <p role="status" className="text-huge">
              {chosen ? "Well done. Look up." : "Touch your best one."}
            </p>
          </footer>
        }
      />
    </>
  );
}
