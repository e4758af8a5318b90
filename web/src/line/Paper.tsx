import type { PaperCut } from "@/api/client";
import { straightOf } from "@/api/pages";
import type { Page } from "@/ink/paths";

type Props = {
  paper: PaperCut;
  /** The strip's own measure. */
  page: Page;
  /** What is to be seen of it, units. */
  from: number;
  to: number;
  above: number;
  below: number;
};

/** A piece of the page itself, cut out and laid on the strip's lines. */
export function Paper({ paper, page, from, to, above, below }: Props) {
  const [width = 0, height = 0] = paper.size_mm;
  return (
    <svg
      x={from}
      y={above}
      width={to - from}
      height={below - above}
      viewBox={`${from} ${above} ${to - from} ${below - above}`}
      aria-hidden="true"
      data-paper={paper.key}
    >
      <image
        href={straightOf(paper.page_id)}
        x={page.x(paper.moved_mm)}
        y={page.y(0)}
        width={width * page.unitsPerMm}
        height={height * page.unitsPerMm}
        preserveAspectRatio="none"
        className="opacity-60 mix-blend-multiply"
      />
    </svg>
  );
}
