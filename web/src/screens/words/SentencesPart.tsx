import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import type { SentenceSeen } from "@/api/client";
import { useSentence, useSentences } from "@/api/words";
import { useClass } from "@/app/school";
import { Button, LINK } from "@/ui/Button";
import { useSettled } from "@/ui/useSettled";
import { minutes } from "./Chosen";
import { TypedSlot } from "./Slot";
import { useAsked } from "./useAsked";
import { Whose } from "./Whose";

const LONGEST = 120;
const BOARD_MOST = 40;
const SETTLED_MS = 250;

/** A sentence typed or chosen: what in it is not taught, with words that could stand there. */
export function SentencesPart() {
  const { id } = useClass();
  const asked = useAsked();
  const { get, set, whose } = asked;
  const [typed, setTyped] = useState(get("text"));
  const settled = useSettled(typed, SETTLED_MS);
  useEffect(() => {
    if (settled !== get("text")) set({ text: settled || null });
  });
  const seen = useSentence(id, { ...whose, text: settled });
  const listed = useSentences(id, { ...whose, holds: get("holding") });
  const navigate = useNavigate();
  return (
    <>
      <p className="text-large leading-[52px]">
        A sentence
        <Whose asked={asked} />
      </p>
      <label className="mt-2 block">
        <span className="text-small text-graphite">Type one, or choose one from below</span>
        <input
          value={typed}
          maxLength={LONGEST}
          onChange={(event) => setTyped(event.target.value)}
          className="mt-1 block h-12 w-full border-b-2 border-line bg-band px-3 text-title"
        />
      </label>
      {seen.data && typed.trim() !== "" && <Seen seen={seen.data} onText={setTyped} />}
      <div className="mt-3 mb-6 flex flex-wrap gap-2">
        <Button
          disabled={!typed.trim() || typed.length > BOARD_MOST}
          onClick={() => navigate(`/board?text=${encodeURIComponent(typed.trim())}`)}
        >
          On the board
        </Button>
        <Button
          disabled={!typed.trim() || typed.length > BOARD_MOST}
          onClick={() => navigate(`/write?what=words&words=${encodeURIComponent(typed.trim())}&line=yes`)}
        >
          To write
        </Button>
        {typed.length > BOARD_MOST && (
          <p className="self-center text-small text-graphite">
            The board and a line to write have room for {BOARD_MOST} letters and spaces.
          </p>
        )}
      </div>
      <section aria-label="Sentences within reach">
        <header className="flex flex-wrap items-baseline gap-x-3 border-b-2 border-ink pb-1">
          <h2 className="font-bold">Within reach</h2>
          <p role="status" className="text-small text-graphite">
            {listed.data && `${listed.data.found} of the ${listed.data.total} sentences of the bank`}
          </p>
          <span className="ml-auto text-small">
            with
            <TypedSlot
              name="With a letter or word"
              value={get("holding")}
              most={20}
              placeholder="any word"
              onChange={(value) => set({ holding: value || null })}
            />
          </span>
        </header>
        <ul className="columns-2 gap-8 max-[900px]:columns-1">
          {listed.data?.sentences.map((text) => (
            <li key={text} className="break-inside-avoid border-b border-hair">
              <button
                type="button"
                className="block min-h-10 w-full py-2 text-left hover:bg-ochre/35"
                onClick={() => setTyped(text)}
              >
                {text}
              </button>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}

/** The sentence with what is not taught marked on its words, and what could stand there. */
function Seen({ seen, onText }: { seen: SentenceSeen; onText: (text: string) => void }) {
  const missing = seen.tokens.filter((token) => token.letters.length + token.sounds.length > 0);
  const swapped = (at: number, to: string) => {
    const token = seen.tokens[at];
    return token ? seen.text.slice(0, token.start) + to + seen.text.slice(token.end) : seen.text;
  };
  return (
    <section aria-label="What was seen" className="mt-3">
      <p className="text-title" data-testid="marked">
        {seen.tokens.map((token, i) => {
          const before = seen.text.slice(seen.tokens[i - 1]?.end ?? 0, token.start);
          const marked = missing.includes(token);
          return (
            <span key={token.start}>
              {before}
              {marked ? (
                <mark className="border-b-4 border-brick bg-transparent text-ink">{token.text}</mark>
              ) : (
                token.text
              )}
            </span>
          );
        })}
        {seen.text.slice(seen.tokens.at(-1)?.end ?? 0)}
      </p>
      <p role="status" className="mt-1 text-graphite">
        {seen.words} {seen.words === 1 ? "word" : "words"}, {minutes(seen.seconds)} to write.{" "}
        {seen.within_reach ? "All of it is taught." : ""}
      </p>
      <ul>
        {missing.map((token) => (
          <li key={token.start} className="flex flex-wrap items-baseline gap-x-3 border-b border-hair py-1">
            <b>{token.text}</b>
            <span className="text-graphite">
              {[
                token.letters.length > 0 && `letters not taught: ${token.letters.join(", ")}`,
                token.sounds.length > 0 && `sounds not taught: ${token.sounds.join(", ")}`,
              ]
                .filter(Boolean)
                .join("; ")}
            </span>
            {token.swaps.length > 0 ? (
              <span className="flex flex-wrap items-baseline gap-x-2">
                instead
                {token.swaps.map((swap) => (
                  <button
                    key={swap}
                    type="button"
                    aria-label={`${swap} instead of ${token.text}`}
                    className={`${LINK} min-h-8`}
                    onClick={() => onText(swapped(seen.tokens.indexOf(token), swap))}
                  >
                    {swap}
                  </button>
                ))}
              </span>
            ) : (
              <span className="text-graphite">no word of the bank could stand there</span>
            )}
          </li>
        ))}
        {seen.slips.map((slip) => (
          <li key={`${slip.form} ${slip.at}`} className="border-b border-hair py-1">
            {slip.says}
          </li>
        ))}
      </ul>
      {seen.mended !== seen.text && (
        <Button className="mt-2" onClick={() => onText(seen.mended)}>
          Put it right: {seen.mended}
        </Button>
      )}
    </section>
  );
}
