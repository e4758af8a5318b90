import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got } from "@/api/client";
import { keys } from "@/api/keys";
import { showNewest } from "@/api/newest";
import { useSounds } from "@/api/queries";
import { useClass } from "@/app/school";
import { centred, Glyph, widthOf } from "@/line/Letter";
import { Lines } from "@/line/Strip";
import { Button } from "@/ui/Button";
import { Empty, Loaded } from "@/ui/States";

const EXAMPLE = "n e t sh\nll g u s\nh a d m";
const WIDE = 2600;

/** The school's own order of sounds, set by set; a sound of several letters is written as one. */
export function Sounds() {
  const { id } = useClass();
  const query = useSounds(id);
  return (
    <Loaded query={query} what="the order of sounds">
      {(sounds) => (
        <div className="grid flex-1 grid-cols-[minmax(0,1fr)_272px] gap-8">
          <div>
            {sounds.sets.length === 0 && (
              <Empty title="No order of sounds yet">
                Type your school's sets, one a line, and keep them.
              </Empty>
            )}
            {sounds.sets.map((set) => {
              let x = 0;
              return (
                <section
                  key={set.number}
                  aria-label={`Set ${set.number}`}
                  className="border-b border-hair py-1"
                >
                  <h2 className="text-small text-graphite">Set {set.number}</h2>
                  <svg
                    viewBox={`0 -242 ${WIDE} 354`}
                    className="block w-full"
                    role="img"
                    aria-label={set.units.map((u) => u.text).join(", ")}
                  >
                    <Lines from={0} to={WIDE} />
                    {set.units.map(({ text, drawing }) => {
                      const wide = widthOf(drawing) + 150;
                      x += wide;
                      return (
                        <Glyph key={text} letter={drawing} x={centred(drawing, x - wide / 2)} weight={11} />
                      );
                    })}
                  </svg>
                </section>
              );
            })}
          </div>
          <SoundsForm key={sounds.text} text={sounds.text} />
        </div>
      )}
    </Loaded>
  );
}

function SoundsForm({ text }: { text: string }) {
  const { id } = useClass();
  const client = useQueryClient();
  const [typed, setTyped] = useState(text);
  const keep = useMutation({
    mutationFn: () =>
      got(
        api.PUT("/api/classes/{class_id}/sounds", {
          params: { path: { class_id: id } },
          body: { text: typed },
        }),
      ),
    onSuccess: (kept) => showNewest(client, keys.sounds(id), kept),
  });
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate();
      }}
    >
      <label className="block">
        <span className="text-small text-graphite">One set a line, sounds with spaces between them</span>
        <textarea
          rows={10}
          value={typed}
          placeholder={EXAMPLE}
          spellCheck={false}
          onChange={(event) => setTyped(event.target.value)}
          className="mt-1 w-full border-b-2 border-line bg-band px-2 py-1 text-large"
        />
      </label>
      {keep.error && (
        <p role="alert" className="text-brick">
          {keep.error.message}
        </p>
      )}
      <Button type="submit" look="strong">
        Keep this order
      </Button>
    </form>
  );
}
