import type { AtTheDoor, RoomSeen } from "@/api/client";
import type { useRoomSteps } from "@/api/room";
import { Button } from "@/ui/Button";

type Steps = ReturnType<typeof useRoomSteps>;
type Props = { room: RoomSeen; waiting: number; onAdmit: () => void; steps: Steps };

const PICK = "h-10 rounded-sm border border-pale bg-sheet px-2";
const NAMELESS_MOST = 3; // named one by one
const called = (one: AtTheDoor) => (one.is_phone ? "Your phone" : one.wants || "A tablet without a name");

/** Tablets that want in, or are in without a child. */
export function DoorList({ room, waiting, onAdmit, steps }: Props) {
  const all = room.door.filter((one) => one.here || one.unsent);
  const nameless = all.filter((one) => !one.wants && !one.is_phone);
  const shown = all.filter((one) => nameless.indexOf(one) < NAMELESS_MOST);
  if (!shown.length) return null;
  return (
    <section aria-label="At the door" className="mb-4 border-l-4 border-ochre pl-4">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <h2 className="font-bold">At the door</h2>
        {waiting > 0 && (
          <Button look="strong" shortcut="A" onClick={onAdmit}>
            {waiting === 1 ? "Let it in" : `Let all ${waiting} in`}
          </Button>
        )}
        <ul className="flex flex-wrap items-center gap-x-6 gap-y-1">
          {nameless.length > NAMELESS_MOST && (
            <li className="order-last text-graphite">
              and {nameless.length - NAMELESS_MOST} more choosing a name
            </li>
          )}
          {shown.map((one) => (
            <li key={one.id} className="flex items-center gap-2">
              <span>
                {called(one)}
                {one.unsent > 0 && (
                  <span className="text-small text-graphite"> · {one.unsent} kept on it</span>
                )}
              </span>
              {one.is_phone && !one.admitted && (
                <Button onClick={() => steps.admit.mutate([one.id])}>Let it in</Button>
              )}
              {!one.wants && !one.is_phone && (
                <NameFor
                  one={one}
                  room={room}
                  onGive={(child_id) =>
                    steps.give.mutate({
                      tablet: one.id,
                      child_id,
                      with_written: false,
                    })
                  }
                />
              )}
            </li>
          ))}
        </ul>
        <select
          aria-label="Send a tablet away"
          className={`${PICK} ml-auto`}
          value=""
          onChange={(event) => steps.sendAway.mutate(Number(event.target.value))}
        >
          <option value="">Send away…</option>
          {all.map((one) => (
            <option key={one.id} value={one.id}>
              {called(one)}
            </option>
          ))}
        </select>
      </div>
    </section>
  );
}

function NameFor({ one, room, onGive }: { one: AtTheDoor; room: RoomSeen; onGive: (id: number) => void }) {
  const without = room.children.filter((child) => child.tablet_id === null || !child.here);
  return (
    <select
      aria-label={`Give tablet ${one.id} to`}
      className={PICK}
      value=""
      onChange={(event) => onGive(Number(event.target.value))}
    >
      <option value="">Give it to…</option>
      {without.map(({ child }) => (
        <option key={child.id} value={child.id}>
          {child.name}
        </option>
      ))}
    </select>
  );
}
