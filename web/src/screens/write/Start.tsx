import { Button } from "@/ui/Button";

type Props = {
  says: string;
  words: string;
  refused: string | undefined;
  disabled: boolean;
  onStart: () => void;
};

/** The foot of the page: what is about to be written, and the button that begins it. */
export function Start({ says, words, refused, disabled, onStart }: Props) {
  return (
    <>
      {refused && (
        <p role="alert" className="mt-3 text-brick">
          {refused}
        </p>
      )}
      <div className="mt-auto flex items-center justify-end gap-4 pt-4">
        <p className="text-graphite">{says}</p>
        <Button look="strong" big disabled={disabled} onClick={onStart}>
          {words}
        </Button>
      </div>
    </>
  );
}
