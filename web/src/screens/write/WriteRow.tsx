import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useSyncExternalStore } from "react";
import { useParams } from "react-router";
import { api, got, type LetterModel, type Row } from "@/api/client";
import { keys } from "@/api/keys";
import { useLetter, useRow, useRowSteps } from "@/api/queries";
import { useClass } from "@/app/school";
import { crossOutWaiting, flush, post, shelf, watch } from "@/ink/outbox";
import { LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { SimulatedPen } from "./Aids";
import { RowEnd } from "./RowEnd";
import { RowPage, writtenOn } from "./RowPage";
import { TeacherOnly } from "./TeacherOnly";

/** The child's page: the strip, the model, the pen, and three words. */
export function WriteRow() {
  const rowId = Number(useParams().rowId);
  const query = useRow(rowId);
  const { id } = useClass();
  const letter = useLetter(query.data?.letter ?? "l", id);
  return (
    <main className="flex h-screen flex-col overflow-hidden bg-paper">
      <Loaded query={query} what="the row">
        {(row) => (
          <Loaded query={letter} what="the model">
            {(model) => model.char === row.letter && <Writing key={row.id} row={row} letter={model} />}
          </Loaded>
        )}
      </Loaded>
    </main>
  );
}

function Writing({ row, letter }: { row: Row; letter: LetterModel }) {
  const client = useQueryClient();
  const { style } = useClass();
  useSyncExternalStore(watch, shelf); // what is written may be waiting there
  const refresh = useCallback(async () => {
    await flush();
    await client.invalidateQueries({ queryKey: keys.row(row.id) });
  }, [client, row.id]);

  useEffect(() => {
    void refresh();
  }, [refresh]);

  const { edit } = useRowSteps(row.id);
  const crossLast = async () => {
    await flush(); // the last attempt may still be on its way
    if (await crossOutWaiting(row)) return;
    const { attempts } = await got(api.GET("/api/rows/{row_id}", { params: { path: { row_id: row.id } } }));
    const last = attempts.findLast((one) => !one.crossed_out);
    if (last) edit.mutate({ attempt_ids: [last.id], crossed_out: true });
  };
  const pick = (key: string) => {
    const chosen = row.attempts.find((one) => one.key === key);
    if (chosen) edit.mutate({ attempt_ids: [chosen.id], best: true });
  };
  const draft = {
    page: `row ${row.id} ${row.started_at}`,
    address: `/write/${row.id}`,
    what: `${row.child.name}, ${row.letter}`,
  };
  return (
    <RowPage
      row={{ ...row, hand: row.child.hand }}
      name={row.child.first_name}
      letter={letter}
      written={writtenOn(row, row.attempts)}
      toWrite={row.to_write}
      draft={draft}
      rubs={style.correction === "rub-out"}
      keep={(attempt) => post(row, attempt, draft.page)}
      crossLast={crossLast}
      onPick={pick}
      aids={(feed) => (
        <>
          <SimulatedPen
            feed={feed}
            ink={() =>
              got(api.GET("/api/rows/{row_id}/simulated-pen", { params: { path: { row_id: row.id } } }))
            }
          />
          <TeacherOnly>
            <LinkButton big to="/write">
              Leave
            </LinkButton>
          </TeacherOnly>
        </>
      )}
      end={<RowEnd row={row} />}
    />
  );
}
