import type { LetterDrawing } from "@/api/client";
import { Glyph, widthOf } from "./Letter";
import { Strip } from "./Strip";

const GAP = 100;

type Props = { label: string; children: LetterDrawing[]; className: string; least?: number };

/** Letters or words one after another on the line, which is `least` units wide or more. */
export function SideBySide({ label, children, className, least = 900 }: Props) {
  const width = children.reduce((sum, one) => sum + widthOf(one) + GAP, GAP);
  let x = GAP;
  return (
    <Strip width={Math.max(least, width)} label={label} className={className}>
      {children.map((one) => {
        const at = x - (one.bounds[0] ?? 0);
        x += widthOf(one) + GAP;
        return <Glyph key={one.char} letter={one} x={at} weight={10} />;
      })}
    </Strip>
  );
}
