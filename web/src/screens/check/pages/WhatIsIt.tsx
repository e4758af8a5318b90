import { useState } from "react";
import type { PageSeen } from "@/api/client";
import type { usePageSteps } from "@/api/pages";
import { usePrintedSheets } from "@/api/sheets";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Corners, type Spot, someCorners } from "./Corners";
import { OtherWriting } from "./OtherWriting";

type Props = {
  page: PageSeen;
  own: ReturnType<typeof usePageSteps>;
  onReplaced: (pageId: number) => void;
};

/** A picture in which no sheet was found, or one that nobody knows: the teacher says what it is. */
export function WhatIsIt({ page, own, onReplaced }: Props) {
  const [open, setOpen] = useState<"sheet" | "writing" | null>(null);
  const close = (on: boolean) => !on && setOpen(null);
  return (
    <div className="py-3">
      <p className="max-w-[60ch] text-graphite">
        The picture is kept until you have decided. If it is writing in a book or on a board, say where its
        rows are and what they say; if it is a sheet, say which, and where its corners lie. Then it is read
        like any other.
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button look="strong" disabled={page.picture_px === null} onClick={() => setOpen("writing")}>
          It is other writing
        </Button>
        <Button disabled={page.picture_px === null} onClick={() => setOpen("sheet")}>
          It is a sheet
        </Button>
      </div>
      <Dialog wide title="Which sheet it is" open={open === "sheet"} onOpenChange={close}>
        <WhichSheet page={page} own={own} onReplaced={onReplaced} />
      </Dialog>
      <Dialog wide title="What is written, and where" open={open === "writing"} onOpenChange={close}>
        <OtherWriting page={page} own={own} onReplaced={onReplaced} />
      </Dialog>
    </div>
  );
}

/** Sheet, copy and page from what was printed; the corners dragged to where the paper's are. */
export function WhichSheet({ page, own, onReplaced }: Props) {
  const { id } = useClass();
  const printed = usePrintedSheets(id).data ?? [];
  const [wide = 1, tall = 1] = page.picture_px ?? [];
  const [corners, setCorners] = useState<Spot[]>(() => someCorners([wide, tall]));
  const [sheet, setSheet] = useState("");
  const [copy, setCopy] = useState(1);
  const [number, setNumber] = useState(1);
  const chosen = printed.find((one) => one.code === sheet) ?? printed[0];
  const { readAs } = own;
  if (!chosen) return <p>No sheet was printed for this class yet.</p>;
  return (
    <form
      className="grid grid-cols-[minmax(0,1fr)_260px] gap-6 max-[900px]:grid-cols-1"
      onSubmit={(event) => {
        event.preventDefault();
        readAs.mutate(
          { sheet: chosen.code, copy_number: copy, page: number, corners_px: corners },
          { onSuccess: (now) => onReplaced(now.id) },
        );
      }}
    >
      {page.picture_id !== null && (
        <Corners pictureId={page.picture_id} size={[wide, tall]} corners={corners} onChange={setCorners} />
      )}
      <div className="space-y-3">
        <p className="text-small text-graphite">
          Drag the four corners to where the paper’s own corners are, beginning with its top left.
        </p>
        <Pick label="Sheet" value={chosen.code} onPick={setSheet}>
          {printed.map((one) => (
            <option key={one.code} value={one.code}>
              {one.name}, {one.code}
            </option>
          ))}
        </Pick>
        <Pick label="Whose copy" value={String(copy)} onPick={(value) => setCopy(Number(value))}>
          {chosen.copies.map((one) => (
            <option key={one.number} value={one.number}>
              {one.child?.name ?? `copy ${one.number}`}
            </option>
          ))}
        </Pick>
        <label className="block">
          <span className="block text-small text-graphite">Page</span>
          <input
            type="number"
            min={1}
            max={60}
            value={number}
            onChange={(event) => setNumber(Number(event.target.value))}
            className="h-10 w-24 rounded-sm border border-pale bg-sheet px-2"
          />
        </label>
        <Button type="submit" look="strong" disabled={readAs.isPending}>
          {readAs.isPending ? "Reading…" : "Read it as this"}
        </Button>
        {readAs.error && (
          <p role="alert" className="text-small text-brick">
            {readAs.error.message}
          </p>
        )}
      </div>
    </form>
  );
}

type PickProps = {
  label: string;
  value: string;
  onPick: (value: string) => void;
  children: React.ReactNode;
};

const Pick = ({ label, value, onPick, children }: PickProps) => (
  <label className="block">
    <span className="block text-small text-graphite">{label}</span>
    <select
      value={value}
      onChange={(event) => onPick(event.target.value)}
      className="h-10 w-full rounded-sm border border-pale bg-sheet px-2"
    >
      {children}
    </select>
  </label>
);
