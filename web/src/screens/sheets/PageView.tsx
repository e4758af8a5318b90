import clsx from "clsx";
import { useEffect, useState } from "react";
import type { SheetPreview } from "@/api/client";
import { Button } from "@/ui/Button";

type Props = {
  preview: SheetPreview;
  name: string;
  /** The row that is chosen among the rows beside it. */
  row?: number | null | undefined;
  onRow?: (row: number) => void;
  stale?: boolean;
};

const source = (svg: string) => `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`;

/** The pages of a sheet at their true proportion, with the chosen row marked. */
export function PageView({ preview, name, row = null, onRow, stale = false }: Props) {
  const [turned, setTurned] = useState(1);
  const pages = preview.pages.length;
  const chosen = preview.places.find((place) => place.row === row)?.page;
  useEffect(() => {
    if (chosen) setTurned(chosen);
  }, [chosen]);
  const page = Math.min(turned, pages);
  const { width_mm: wide, height_mm: tall } = preview;
  const here = preview.places.filter((place) => place.page === page);
  return (
    <figure>
      <div
        className={clsx("relative mx-auto border border-hair bg-white", stale && "opacity-60")}
        style={{ aspectRatio: `${wide} / ${tall}`, maxHeight: "min(66vh, 640px)", maxWidth: "100%" }}
      >
        <img
          src={source(preview.pages[page - 1] ?? "")}
          alt={`${name}, page ${page}`}
          className="block h-full w-full"
        />
        {onRow &&
          here.map((place) => (
            <button
              key={`${place.row} ${place.top_mm}`}
              type="button"
              tabIndex={-1}
              aria-hidden="true"
              onClick={() => onRow(place.row)}
              className={clsx(
                "absolute inset-x-0",
                place.row === row ? "bg-ochre/35 mix-blend-multiply" : "hover:bg-ochre/15",
              )}
              style={{
                top: `${(100 * place.top_mm) / tall}%`,
                height: `${(100 * (place.bottom_mm - place.top_mm)) / tall}%`,
              }}
            />
          ))}
      </div>
      {pages > 1 && (
        <figcaption className="mt-2 flex items-center justify-center gap-3 text-small text-graphite">
          <Button look="quiet" disabled={page === 1} onClick={() => setTurned(page - 1)}>
            Page before
          </Button>
          <span role="status">
            page {page} of {pages}
          </span>
          <Button look="quiet" disabled={page === pages} onClick={() => setTurned(page + 1)}>
            Next page
          </Button>
        </figcaption>
      )}
    </figure>
  );
}
