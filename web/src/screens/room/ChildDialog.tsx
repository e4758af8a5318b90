import { useState } from "react";
import type { ChildInRoom, RoomSeen } from "@/api/client";
import type { useRoomSteps } from "@/api/room";
import { Button, LinkButton } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { ChildLine } from "./ChildLine";

type Props = {
  room: RoomSeen;
  one: ChildInRoom;
  steps: ReturnType<typeof useRoomSteps>;
  onClose: () => void;
};

/** One child of the room: its line large, the way to its row, and whose tablet it is. */
export function ChildDialog({ room, one, steps, onClose }: Props) {
  const { child, line, tablet_id } = one;
  const [to, setTo] = useState(0);
  const [wrong, setWrong] = useState(true);
  return (
    <Dialog wide title={child.name} open onOpenChange={(on) => !on && onClose()}>
      <ChildLine one={one} onOpen={onClose} />
      <div className="mt-4 flex flex-wrap gap-3">
        {line?.row_id != null && <LinkButton to={`/check/${line.row_id}`}>Look at the row</LinkButton>}
        <LinkButton to={`/children/${child.id}`}>The child’s story</LinkButton>
      </div>
      {tablet_id !== null && (
        <fieldset className="mt-6 border-t border-hair pt-3">
          <legend className="pr-3 font-bold">The tablet</legend>
          <div className="flex flex-wrap items-center gap-4">
            <select
              aria-label="Give the tablet to"
              className="h-10 rounded-sm border border-pale bg-sheet px-2"
              value={to}
              onChange={(event) => setTo(Number(event.target.value))}
            >
              <option value={0}>Give it to another child…</option>
              {room.children
                .filter((other) => other.child.id !== child.id)
                .map((other) => (
                  <option key={other.child.id} value={other.child.id}>
                    {other.child.name}
                  </option>
                ))}
            </select>
            <label className="flex items-center gap-2">
              <input type="checkbox" checked={wrong} onChange={(event) => setWrong(event.target.checked)} />
              The name was wrong: what it wrote here goes with it
            </label>
            <Button
              disabled={!to || steps.give.isPending}
              onClick={() =>
                steps.give.mutate(
                  { tablet: tablet_id, child_id: to, with_written: wrong },
                  { onSuccess: onClose },
                )
              }
            >
              Give it
            </Button>
            <Button look="brick" onClick={() => steps.sendAway.mutate(tablet_id, { onSuccess: onClose })}>
              Send it out of the room
            </Button>
          </div>
        </fieldset>
      )}
    </Dialog>
  );
}
