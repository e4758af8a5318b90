import { useState } from "react";
import { useSheetPreview } from "@/api/sheets";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { Button, LinkButton } from "@/ui/Button";
import { Empty, Loading } from "@/ui/States";
import type { Draft, Table } from "./draft";
import { KeepAndSave } from "./KeepAndSave";
import { PageFields } from "./PageFields";
import { PageView } from "./PageView";
import { PrintThis } from "./PrintThis";
import { Rows } from "./Rows";

/** The sheet on the table: its page beside its rows. */
export function ThisPart({ table, waiting }: { table: Table; waiting: boolean }) {
  if (waiting) return <Loading what="the sheet" />;
  if (!table.draft) {
    return (
      <Empty title="No sheet is on the table yet.">
        <LinkButton to="/sheets">Take a ready-made one</LinkButton>
        <p>Or from a letter, a family, words, a dictation, a lesson or a child: “Sheet for it”.</p>
      </Empty>
    );
  }
  return <OnTheTable table={table} draft={table.draft} />;
}

function OnTheTable({ table, draft }: { table: Table; draft: Draft }) {
  const { id, children } = useClass();
  const [row, setRow] = useState<number | null>(null);
  const child = children.find((one) => one.id === draft.child);
  const query = useSheetPreview(id, draft.wish, child?.name);
  const undo = () => {
    setRow(null);
    table.undo();
  };
  useKeys({ u: undo });
  const onWish = (wish: Draft["wish"]) => table.put({ ...draft, wish });
  return (
    <div className="grid grid-cols-[minmax(0,430px)_minmax(0,1fr)] gap-8 max-[1000px]:grid-cols-1">
      <div>
        {query.data && (
          <PageView
            preview={query.data}
            name={draft.name}
            row={row}
            onRow={setRow}
            stale={query.isPlaceholderData || Boolean(query.error)}
          />
        )}
        {query.isPending && <Loading what="the page" />}
      </div>
      <div className="flex min-w-0 flex-col gap-4">
        {query.error && (
          <p role="alert" className="text-brick">
            {sentence(query.error.message)}
          </p>
        )}
        <Rows wish={draft.wish} preview={query.data} row={row} onRow={setRow} onWish={onWish} />
        <PageFields wish={draft.wish} onWish={onWish} />
        <PrintThis
          draft={draft}
          pages={query.data?.pages.length ?? 1}
          ready={!query.error && !query.isPending}
        >
          <Button disabled={!table.canUndo} onClick={undo}>
            Undo
          </Button>
          <KeepAndSave draft={draft} onDraft={table.put} />
        </PrintThis>
      </div>
    </div>
  );
}

/** What the composer says begins small. */
export const sentence = (words: string) => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
