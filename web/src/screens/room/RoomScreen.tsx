import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { ChildInRoom, RoomSeen } from "@/api/client";
import { keys } from "@/api/keys";
import { useArriving, useRoom, useRoomSteps } from "@/api/room";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useKeys } from "@/app/useKeys";
import { Button, LinkButton } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { Empty, Loaded } from "@/ui/States";
import { ChildDialog } from "./ChildDialog";
import { ChildLine } from "./ChildLine";
import { ComingIn } from "./ComingIn";
import { DoorList } from "./DoorList";
import { HandOutDialog } from "./HandOutDialog";

/** The room: every child's line as it is written, and what to do about it. */
export function RoomScreen() {
  const { id, children } = useClass();
  const query = useRoom(id);
  const listening = useArriving(id, query.data != null);
  const { open } = useRoomSteps(id);
  return (
    <Loaded query={query} what="the room">
      {(room) =>
        room ? (
          <OpenRoom room={room} listening={listening} />
        ) : (
          <>
            <PageHead title="The room" sub="a class on tablets" />
            <Empty title={children.length ? "The room is closed" : "There are no children in this class yet"}>
              {children.length ? (
                <>
                  <Button look="strong" onClick={() => open.mutate()} disabled={open.isPending}>
                    Open the room
                  </Button>
                  <p>
                    Tablets of the same network come in with a picture or six letters. You hand out rows and
                    words, and see each child’s line as it is written.
                  </p>
                </>
              ) : (
                <LinkButton to="/class">Add the first child</LinkButton>
              )}
            </Empty>
            {open.error && <p role="alert">{open.error.message}</p>}
          </>
        )
      }
    </Loaded>
  );
}

const clock = (since: string, now: number) => {
  const seconds = Math.max(0, Math.floor((now - Date.parse(since)) / 1000));
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
};

/** The time, told anew every second while somebody wants to know. */
function useSecond(wanted: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!wanted) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [wanted]);
  return now;
}

function OpenRoom({ room, listening }: { room: RoomSeen; listening: boolean }) {
  const [search] = useSearchParams(); // a lesson says what comes next
  const steps = useRoomSteps(room.class_id);
  const [open, setOpen] = useState<"hand out" | "code" | "close" | null>(null);
  const [child, setChild] = useState<number | null>(null);
  const here = room.children.filter((one) => one.tablet_id !== null);
  const waiting = room.door.filter((one) => one.wants && !one.admitted);
  const client = useQueryClient();
  const pens = () => {
    // not what is drawn: a key may be pressed again before that is drawn anew
    const latest = client.getQueryData<RoomSeen | null>(keys.room(room.class_id));
    steps.pens.mutate(!latest?.pens_down);
  };
  const handOut = () => here.length && setOpen("hand out");
  const admit = () => waiting.length && steps.admit.mutate(null);
  const { dictation } = room;
  const next = dictation?.next ?? null;
  const sayNext = () =>
    dictation &&
    next !== null &&
    steps.handOut.mutate({ dictated: { dictation_id: dictation.id, position: next } });
  useKeys({ p: pens, n: handOut, w: sayNext, a: admit, c: () => setOpen("code") });
  const chosen = room.children.find((one) => one.child.id === child);
  const error = Object.values(steps).find((one) => one.error)?.error;
  const now = useSecond(room.handed_at !== null);
  const sub = [
    `${room.tablets} of ${room.children.length} tablets`,
    room.handed_out,
    room.handed_at && clock(room.handed_at, now),
  ]
    .filter(Boolean)
    .join(" · ");
  return (
    <>
      <PageHead crowded title="The room" sub={sub}>
        <div className="ml-auto flex gap-2">
          <Button look="quiet" shortcut="C" onClick={() => setOpen("code")}>
            Code
          </Button>
          <Button look="quiet" onClick={() => setOpen("close")}>
            Close the room
          </Button>
        </div>
      </PageHead>
      <div role="toolbar" aria-label="The room" className="mb-3 flex flex-wrap items-center gap-2">
        <Button pressed={room.pens_down} shortcut="P" onClick={pens}>
          {room.pens_down ? "Pens up" : "Pens down"}
        </Button>
        <Button shortcut="N" onClick={handOut} disabled={!here.length}>
          {room.handed_at ? "Hand out next" : "Hand out"}
        </Button>
        <Button onClick={() => steps.collect.mutate()} disabled={!room.handed_at}>
          Collect
        </Button>
        {next !== null && (
          <Button shortcut="W" onClick={sayNext} disabled={steps.handOut.isPending}>
            Next word: {dictation?.words[next]}
          </Button>
        )}
        {dictation && <LinkButton to={`/dictation/${dictation.id}`}>Mark the dictation</LinkButton>}
        {room.letter && (
          <LinkButton to={`/board?text=${encodeURIComponent(room.letter)}`}>
            Show {room.letter} again
          </LinkButton>
        )}
        <p role="status" className="ml-2 min-w-0 text-small text-graphite">
          {listening ? room.just_now.map((said) => `${said}.`).join(" ") : "First Loop is not answering."}
        </p>
      </div>
      {error && (
        <p role="alert" className="mb-2 text-brick">
          {error.message}
        </p>
      )}
      <DoorList room={room} waiting={waiting.length} onAdmit={admit} steps={steps} />
      {here.length ? (
        <ul aria-label="Children" className="grid grid-cols-3 gap-x-10 gap-y-3 max-[1100px]:grid-cols-2">
          {room.children.map((one) => (
            <li key={one.child.id}>
              <ChildLine one={one} onOpen={() => setChild(one.child.id)} />
            </li>
          ))}
        </ul>
      ) : (
        <ComingIn room={room} />
      )}
      <HandOutDialog
        room={room}
        letter={search.get("letter") ?? room.letter}
        text={search.get("text") ?? ""}
        dictation={Number(search.get("dictation")) || null}
        open={open === "hand out"}
        pending={steps.handOut.isPending}
        onClose={() => setOpen(null)}
        onHandOut={(what) => steps.handOut.mutate(what, { onSuccess: () => setOpen(null) })}
      />
      <ComingInDialogs room={room} open={open} onClose={() => setOpen(null)} steps={steps} />
      {chosen && (
        <ChildDialog room={room} one={chosen as ChildInRoom} steps={steps} onClose={() => setChild(null)} />
      )}
    </>
  );
}

function ComingInDialogs(props: {
  room: RoomSeen;
  open: string | null;
  onClose: () => void;
  steps: ReturnType<typeof useRoomSteps>;
}) {
  const { room, open, onClose, steps } = props;
  return (
    <>
      <Dialog wide title="Coming in" open={open === "code"} onOpenChange={(on) => !on && onClose()}>
        <ComingIn room={room} />
      </Dialog>
      <Dialog title="Close the room" open={open === "close"} onOpenChange={(on) => !on && onClose()}>
        <p>
          Everything is collected, and no tablet comes in any more. What a tablet still keeps it sends by
          itself when it can, for thirty days.
        </p>
        <div className="mt-5 text-right">
          <Button look="strong" onClick={() => steps.close.mutate(undefined, { onSuccess: onClose })}>
            Close it
          </Button>
        </div>
      </Dialog>
    </>
  );
}
