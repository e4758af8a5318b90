import { Link } from "react-router";
import type { DictationSummary, HandOut, RoomSeen } from "@/api/client";
import { dayFormat } from "@/app/days";
import { Button } from "@/ui/Button";

type Dictated = NonNullable<HandOut["dictated"]>;
type Props = {
  dictations: DictationSummary[];
  chosen: Dictated | null;
  onChoose: (word: Dictated) => void;
};

const short = dayFormat({ weekday: "short", day: "numeric", month: "short" });

/** What is offered first: the word after the one said last, or the first one of a dictation. */
export function offeredWord(
  { dictation }: RoomSeen,
  asked: number | null,
  dictations: DictationSummary[],
): Dictated | null {
  if (dictation && (asked === null || asked === dictation.id))
    return { dictation_id: dictation.id, position: dictation.next ?? dictation.position };
  const first = asked ?? dictations[0]?.id;
  return first === undefined ? null : { dictation_id: first, position: 0 };
}

/** A word of a dictation: the teacher says it, and the tablets show boxes for its sounds. */
export function DictatedChoice({ dictations, chosen, onChoose }: Props) {
  const now = dictations.find((one) => one.id === chosen?.dictation_id);
  if (dictations.length === 0)
    return (
      <p className="mt-4">
        There is no dictation yet.{" "}
        <Link to="/words/dictation" className="underline">
          Make one
        </Link>
      </p>
    );
  return (
    <div className="mt-4">
      <select
        aria-label="Dictation"
        className="h-11 w-full rounded-sm border border-pale bg-sheet px-2"
        value={now?.id ?? ""}
        onChange={(event) => onChoose({ dictation_id: Number(event.target.value), position: 0 })}
      >
        {dictations.map((one) => (
          <option key={one.id} value={one.id}>
            {short(one.day)}: {one.words.join(", ")}
          </option>
        ))}
      </select>
      <ol aria-label="Words of the dictation" className="mt-2 flex flex-wrap gap-2">
        {now?.words.map((word, position) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: words are known by their place
          <li key={position}>
            <Button
              pressed={position === chosen?.position}
              onClick={() => onChoose({ dictation_id: now.id, position })}
            >
              {position + 1} {word}
            </Button>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-graphite">
        You say the word. The tablets show boxes for its sounds and lines, and not the word.
      </p>
    </div>
  );
}
