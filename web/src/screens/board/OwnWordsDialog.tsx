import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got, type TextModel } from "@/api/client";
import { keys } from "@/api/keys";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

type Props = {
  model: TextModel;
  own: string[] | null;
  open: boolean;
  onOpenChange: (open: boolean) => void;
};

/** The class's own words for a letter: one phrase for each part of it. */
export function OwnWordsDialog({ model, own, open, onOpenChange }: Props) {
  const { id } = useClass();
  const client = useQueryClient();
  const [phrases, setPhrases] = useState<string[] | null>(null);
  const generated = model.patter.map((phrase) => phrase.text);
  const shown = phrases ?? own ?? generated;
  const keep = useMutation({
    mutationFn: (kept: string[]) =>
      got(
        api.PUT("/api/classes/{class_id}/words/{char}", {
          params: { path: { class_id: id, char: model.char } },
          body: { phrases: kept },
        }),
      ),
    onSuccess: () => {
      client.invalidateQueries({ queryKey: keys.ownWords(id) });
      setPhrases(null);
      onOpenChange(false);
    },
  });
  return (
    <Dialog title={`Our own words for ${model.char}`} open={open} onOpenChange={onOpenChange}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate(shown);
        }}
      >
        {generated.map((given, i) => (
          <label key={`${model.patter[i]?.from_ms} ${given}`} className="block">
            <span className="text-small text-graphite">{given}</span>
            <input
              value={shown[i] ?? ""}
              maxLength={80}
              onChange={(event) => setPhrases(shown.map((one, n) => (n === i ? event.target.value : one)))}
              className="h-10 w-full border-b-2 border-line bg-band px-2 text-large"
            />
          </label>
        ))}
        {keep.error && (
          <p role="alert" className="text-brick">
            {keep.error.message}
          </p>
        )}
        <div className="flex justify-between">
          <Button look="quiet" disabled={!own} onClick={() => keep.mutate([])}>
            Use the given words again
          </Button>
          <Button type="submit" look="strong">
            Keep our words
          </Button>
        </div>
      </form>
    </Dialog>
  );
}
