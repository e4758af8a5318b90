import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got } from "@/api/client";
import { wentStale } from "@/api/keys";
import { Button } from "@/ui/Button";
import { Care } from "./Care";

/** First start: no class yet. */
export function NewClass() {
  const [name, setName] = useState("");
  const client = useQueryClient();
  const add = useMutation({
    mutationFn: () =>
      got(api.POST("/api/classes", { body: { name, ruling: "four-lines", xh_mm: 10, level: "growing" } })),
    onSuccess: () => wentStale(client, "newClass"),
  });
  return (
    <main className="mx-auto max-w-2xl p-12">
      <title>First Loop</title>
      <h1 className="text-huge font-bold">First Loop</h1>
      <p className="mt-2 text-large">
        Models letters, catches how children write them, and remembers who needs what.
      </p>
      <form
        className="mt-8 border-t-2 border-ink pt-4"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate();
        }}
      >
        <label className="block">
          <span>What is your class called?</span>
          <input
            required
            value={name}
            maxLength={80}
            onChange={(event) => setName(event.target.value)}
            className="mt-1 h-12 w-full border-b-2 border-line bg-band px-3 text-large outline-none"
          />
        </label>
        <p className="mt-2 text-small text-graphite">
          It begins with upright print on four lines, 10 mm from base to mid line.
        </p>
        {add.error && (
          <p role="alert" className="mt-2 text-brick">
            {add.error.message}
          </p>
        )}
        <Button look="strong" type="submit" className="mt-4" disabled={!name.trim() || add.isPending}>
          Make the class
        </Button>
      </form>
      <Care />
    </main>
  );
}
