import { useNavigate } from "react-router";
import { useWritingTime } from "@/api/words";
import { useClass } from "@/app/school";
import { sheetAddress } from "@/screens/sheets/address";
import { Button } from "@/ui/Button";
import { useAsked } from "./useAsked";

const BOARD_MOST = 40; // characters that the board takes

/** Words chosen on any part of the page; they stay in the address. */
export function useChosen() {
  const { get, set } = useAsked();
  const words = get("chosen").split(" ").filter(Boolean);
  const keep = (next: string[]) => set({ chosen: next.join(" ") || null });
  return {
    words,
    toggle: (word: string) =>
      keep(words.includes(word) ? words.filter((one) => one !== word) : [...words, word]),
    add: (more: string[]) => keep([...new Set([...words, ...more])]),
    clear: () => keep([]),
  };
}

/** "a minute", "4 minutes", "half a minute". */
export function minutes(seconds: number): string {
  if (seconds < 45) return "half a minute";
  const count = Math.round(seconds / 60) || 1;
  return count === 1 ? "a minute" : `${count} minutes`;
}

/** What was chosen, how long it takes, and where it goes on to. */
export function Chosen() {
  const { id } = useClass();
  const { words, toggle, clear } = useChosen();
  const navigate = useNavigate();
  const time = useWritingTime(id, words).data;
  const together = words.join(" ");
  if (!words.length) {
    return (
      <p className="mt-auto border-t border-hair pt-3 text-graphite">
        Press words to choose them; from here they go to the board, to Write or to a dictation.
      </p>
    );
  }
  return (
    <section
      aria-label="Chosen words"
      className="sticky bottom-0 -mb-6 mt-auto border-t border-hair bg-paper pt-3 pb-4 max-[900px]:static"
    >
      <p className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        <b>Chosen</b>
        {words.map((word) => (
          <button
            key={word}
            type="button"
            aria-label={`Leave ${word} out`}
            onClick={() => toggle(word)}
            className="border-b border-pale hover:border-brick hover:text-brick"
          >
            {word}
          </button>
        ))}
        {time && (
          <span role="status" className="text-small text-graphite">
            {words.length === 1 ? "one word" : `${words.length} words`}: {minutes(time.seconds)}{" "}
            {time.measured ? "for this class" : "as is usual, until more has been measured"}
          </span>
        )}
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        <Button
          disabled={together.length > BOARD_MOST}
          onClick={() => navigate(`/board?text=${encodeURIComponent(together)}`)}
        >
          On the board
        </Button>
        <Button onClick={() => navigate(`/write?what=words&words=${encodeURIComponent(together)}`)}>
          To write
        </Button>
        <Button onClick={() => navigate(`/words/dictation?words=${encodeURIComponent(together)}`)}>
          Dictate them
        </Button>
        <Button onClick={() => navigate(sheetAddress({ words: together }))}>Sheet for them</Button>
        <Button look="quiet" onClick={clear}>
          None of them
        </Button>
        {together.length > BOARD_MOST && (
          <p className="self-center text-small text-graphite">
            The board has room for {BOARD_MOST} letters and spaces.
          </p>
        )}
      </div>
    </section>
  );
}
