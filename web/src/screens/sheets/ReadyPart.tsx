import { useState } from "react";
import { useNavigate } from "react-router";
import type { KeptSheet, ReadySheet, SheetWish } from "@/api/client";
import { useKeptSheets, useReadySheets, useSheetPreview, useSheetSteps } from "@/api/sheets";
import { useClass } from "@/app/school";
import { Button, LINK } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import type { Draft, Table } from "./draft";

/** Sheets that are ready to print, and those that the class keeps under a name. */
export function ReadyPart({ table }: { table: Table }) {
  const { id } = useClass();
  const query = useReadySheets(id);
  const navigate = useNavigate();
  const take = (draft: Draft) => {
    table.put(draft);
    navigate("/sheets/this");
  };
  return (
    <>
      <Loaded query={query} what="the sheets">
        {(sheets) => (
          <ul
            aria-label="Ready-made sheets"
            className="grid grid-cols-6 gap-4 max-[1100px]:grid-cols-4 max-[700px]:grid-cols-2"
          >
            {sheets.map((one) => (
              <li key={one.key}>
                <Ready one={one} onTake={() => take({ name: one.name, wish: one.wish })} />
              </li>
            ))}
          </ul>
        )}
      </Loaded>
      <Kept onTake={take} />
    </>
  );
}

function Ready({ one, onTake }: { one: ReadySheet; onTake: () => void }) {
  return (
    <button type="button" onClick={onTake} className="group block w-full text-left">
      <Small wish={one.wish} />
      <span className="mt-1 block font-bold group-hover:underline">{one.name}</span>
      <span className="block text-small text-graphite">{one.about}</span>
    </button>
  );
}

/** The first page, small. */
function Small({ wish }: { wish: SheetWish }) {
  const { id } = useClass();
  const page = useSheetPreview(id, wish).data?.pages[0];
  return (
    <span className="block aspect-[210/160] overflow-hidden border border-hair bg-white group-hover:border-line">
      {page && (
        <img
          alt=""
          src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(page)}`}
          className="block w-full"
        />
      )}
    </span>
  );
}

function Kept({ onTake }: { onTake: (draft: Draft) => void }) {
  const { id } = useClass();
  const query = useKeptSheets(id);
  const steps = useSheetSteps(id);
  const [dropped, setDropped] = useState<KeptSheet | null>(null);
  const error = steps.keep.error ?? steps.drop.error ?? steps.takeIn.error ?? steps.bringBack.error;
  return (
    <section aria-label="Sheets you keep" className="mt-6 border-t-2 border-ink pt-2">
      <div className="flex flex-wrap items-center gap-4">
        <h2 className="font-bold">Sheets you keep</h2>
        <label className="ml-auto cursor-pointer rounded-sm border border-pale bg-sheet px-3 py-2 hover:border-line has-[:focus-visible]:outline-2">
          Bring in a sheet’s file
          <input
            type="file"
            accept="application/json,.json"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              event.target.value = "";
              if (file) steps.takeIn.mutate(file);
            }}
          />
        </label>
      </div>
      {error && (
        <p role="alert" className="text-brick">
          {error.message}
        </p>
      )}
      {dropped && (
        <p role="status" className="flex items-center gap-3">
          {dropped.name} is put away.
          <Button
            onClick={() => {
              steps.bringBack.mutate(dropped.id);
              setDropped(null);
            }}
          >
            Undo
          </Button>
        </p>
      )}
      {query.data?.length ? (
        <ul>
          {query.data.map((one) => (
            <li key={one.id} className="flex flex-wrap items-center gap-x-4 border-b border-hair py-1">
              <button
                type="button"
                onClick={() => onTake({ name: one.name, wish: one.wish, kept: one.id })}
                className="min-w-48 flex-1 py-1 text-left font-bold hover:underline"
              >
                {one.name}
              </button>
              <Button
                look="quiet"
                onClick={() => steps.keep.mutate({ name: `${one.name}, copy`.slice(0, 60), wish: one.wish })}
              >
                Copy
              </Button>
              <a className={LINK} href={`/api/sheets/${one.id}/file.json`} download={`${one.name}.json`}>
                As a file
              </a>
              <Button
                look="quiet"
                onClick={() => steps.drop.mutate(one.id, { onSuccess: () => setDropped(one) })}
              >
                Put away
              </Button>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-graphite">None yet: a sheet that was changed can be kept under a name.</p>
      )}
    </section>
  );
}
