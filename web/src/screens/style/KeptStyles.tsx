import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got, type StyleDoc, type StyleVersion } from "@/api/client";
import { useStyles } from "@/api/queries";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";

/** Other styles of the school, to compare with or to follow, and styles as files. */
type Props = {
  onImport: (style: StyleDoc) => void;
  /** The style that stands above the line of text, and choosing another. */
  against: StyleVersion | null;
  onCompare: (style: StyleVersion | null) => void;
};

export function KeptStyles({ onImport, against, onCompare }: Props) {
  const { id, style } = useClass();
  const client = useQueryClient();
  const { data } = useStyles();
  const [problem, setProblem] = useState("");
  const follow = useMutation({
    mutationFn: (styleId: number) =>
      got(
        api.PUT("/api/classes/{class_id}/style/{style_id}", {
          params: { path: { class_id: id, style_id: styleId } },
        }),
      ),
    onSuccess: () => client.invalidateQueries(),
  });
  const read = async (file: File | undefined) => {
    if (!file) return;
    setProblem("");
    try {
      const { format: _format, ...style } = JSON.parse(await file.text());
      await got(api.POST("/api/styles/look", { body: { style, text: "n", letter: "" } }));
      onImport(style);
    } catch (error) {
      setProblem(
        error instanceof Error
          ? `This file is no house style: ${error.message}`
          : "This file cannot be read.",
      );
    }
  };
  const others = data?.filter((one) => one.id !== style.id) ?? [];
  return (
    <section aria-label="Kept styles" className="space-y-2 border-t-2 border-ink pt-2">
      {others.map((one) => (
        <div key={one.id} className="flex items-center justify-between gap-2">
          <span>
            {one.name}
            <span className="block text-small text-graphite">
              version {one.version}
              {one.classes.length > 0 && ` · ${one.classes.join(", ")}`}
            </span>
          </span>
          <span className="flex gap-1">
            <Button
              pressed={against?.id === one.id}
              onClick={() => onCompare(against?.id === one.id ? null : one)}
            >
              Compare
            </Button>
            <Button onClick={() => follow.mutate(one.id)}>Follow</Button>
          </span>
        </div>
      ))}
      <div className="flex gap-4">
        <a
          className="underline decoration-pale underline-offset-4 hover:decoration-ink"
          href={`/api/classes/${id}/style.json`}
        >
          Export
        </a>
        <label className="cursor-pointer underline decoration-pale underline-offset-4 hover:decoration-ink has-[:focus-visible]:outline-2">
          Import
          <input
            type="file"
            accept="application/json,.json"
            className="sr-only"
            onChange={(event) => void read(event.target.files?.[0])}
          />
        </label>
      </div>
      {problem && (
        <p role="alert" className="text-brick">
          {problem}
        </p>
      )}
    </section>
  );
}
