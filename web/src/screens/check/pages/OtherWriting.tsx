import clsx from "clsx";
import { useRef, useState } from "react";
import type { Band, PageSeen } from "@/api/client";
import { flatOf, type usePageSteps, useProposal } from "@/api/pages";
import { useClass } from "@/app/school";
import { Button } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { Corners, type Spot } from "./Corners";

type Props = {
  page: PageSeen;
  own: ReturnType<typeof usePageSteps>;
  onReplaced: (pageId: number) => void;
};

/** Writing that is on no sheet: first where its paper lies, then its rows and what they say. */
export function OtherWriting(props: Props) {
  const { page } = props;
  const proposal = useProposal(page.id, null);
  const [corners, setCorners] = useState<Spot[] | null>(null);
  const [placed, setPlaced] = useState<Spot[] | null>(null);
  return (
    <Loaded query={proposal} what="where the paper seems to lie">
      {(found) => {
        const shown = corners ?? (found.corners_px as Spot[]);
        return placed ? (
          <Rows {...props} corners={placed} onBack={() => setPlaced(null)} />
        ) : (
          <Placing page={page} corners={shown} onChange={setCorners} onDone={() => setPlaced(shown)} />
        );
      }}
    </Loaded>
  );
}

type PlacingProps = {
  page: PageSeen;
  corners: Spot[];
  onChange: (corners: Spot[]) => void;
  onDone: () => void;
};

function Placing({ page, corners, onChange, onDone }: PlacingProps) {
  const [wide = 1, tall = 1] = page.picture_px ?? [];
  const turned = corners.map((_, i) => corners[(i + 3) % 4] ?? ([0, 0] as Spot));
  return (
    <div className="grid grid-cols-[minmax(0,1fr)_240px] gap-6 max-[900px]:grid-cols-1">
      {page.picture_id !== null && (
        <Corners pictureId={page.picture_id} size={[wide, tall]} corners={corners} onChange={onChange} />
      )}
      <div className="space-y-3">
        <p className="text-small text-graphite">
          Drag the corners to those of the paper, or of the part that you want read. The corner with the dot
          is its top left.
        </p>
        <div className="flex flex-wrap gap-2">
          <Button onClick={() => onChange(turned)}>Turn it</Button>
          <Button look="strong" onClick={onDone}>
            Now the rows
          </Button>
        </div>
      </div>
    </div>
  );
}

type Row = Band & { key: number; text: string };
type RowsProps = Props & { corners: Spot[]; onBack: () => void };

function Rows(props: RowsProps) {
  const proposal = useProposal(props.page.id, props.corners);
  return (
    <Loaded query={proposal} what="the rows">
      {(found) => <Written {...props} tall={found.tall} bands={found.bands} />}
    </Loaded>
  );
}

const NEW_ROW = { mid: 0.45, base: 0.5 };

function Written({
  page,
  own,
  onReplaced,
  corners,
  onBack,
  tall,
  bands,
}: RowsProps & { tall: number; bands: Band[] }) {
  const { children, xh_mm } = useClass();
  const [rows, setRows] = useState<Row[]>(() => bands.map((one, key) => ({ ...one, key, text: "" })));
  const nextKey = useRef(bands.length);
  const [child, setChild] = useState(page.child?.id ?? 0);
  const [apart, setApart] = useState(String(xh_mm));
  const { write } = own;
  const change = (key: number, to: Partial<Row>) =>
    setRows((all) => all.map((one) => (one.key === key ? { ...one, ...to } : one)));
  const add = () => {
    const last = rows.at(-1);
    const by = last ? last.base - last.mid : NEW_ROW.base - NEW_ROW.mid;
    const base = last ? Math.min(last.base + 2.5 * by, 0.98) : NEW_ROW.base;
    setRows([...rows, { mid: base - by, base, key: nextKey.current++, text: "" }]);
  };
  const filled = rows.filter((one) => one.text.trim());
  return (
    <form
      className="grid grid-cols-[minmax(0,1fr)_320px] gap-6 max-[900px]:grid-cols-1"
      onSubmit={(event) => {
        event.preventDefault();
        write.mutate(
          {
            child_id: child,
            corners_px: corners,
            mid_to_base_mm: Number(apart),
            lines: filled.map(({ mid, base, text }) => ({ mid, base, text })),
          },
          { onSuccess: (now) => onReplaced(now.id) },
        );
      }}
    >
      <Bands page={page} corners={corners} tall={tall} rows={rows} onMove={change} />
      <div className="space-y-3">
        <p className="text-small text-graphite">
          Drag each row’s upper line to the tops of its small letters and its lower line to where they stand.
          Type what the child wrote; rows without words are left out.
        </p>
        <ol className="space-y-2">
          {rows.map((row, i) => (
            <li key={row.key} className="flex items-center gap-2">
              <input
                aria-label={`Row ${i + 1} says`}
                value={row.text}
                maxLength={120}
                onChange={(event) => change(row.key, { text: event.target.value })}
                className="h-10 min-w-0 flex-1 rounded-sm border border-pale bg-sheet px-2"
              />
              <Button
                look="quiet"
                aria-label={`Leave row ${i + 1} out`}
                onClick={() => setRows(rows.filter((one) => one !== row))}
              >
                ×
              </Button>
            </li>
          ))}
        </ol>
        <Button onClick={add}>Add a row</Button>
        <label className="block">
          <span className="block text-small text-graphite">Who wrote it</span>
          <select
            value={child}
            onChange={(event) => setChild(Number(event.target.value))}
            className="h-10 w-full rounded-sm border border-pale bg-sheet px-2"
          >
            <option value={0}>Choose the child</option>
            {children.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <label className="block">
          <span className="block text-small text-graphite">
            How tall a small letter should be, millimetres. If you do not know, leave it: sizes are told then
            as on the class’s own lines.
          </span>
          <input
            inputMode="decimal"
            value={apart}
            onChange={(event) => setApart(event.target.value)}
            className="h-10 w-24 rounded-sm border border-pale bg-sheet px-2"
          />
        </label>
        {write.error && (
          <p role="alert" className="text-small text-brick">
            {write.error.message}
          </p>
        )}
        <div className="flex flex-wrap gap-2">
          <Button onClick={onBack}>Back to the corners</Button>
          <Button
            type="submit"
            look="strong"
            disabled={write.isPending || !filled.length || !child || !(Number(apart) > 0)}
          >
            {write.isPending ? "Reading…" : "Read it"}
          </Button>
        </div>
      </div>
    </form>
  );
}

type BandsProps = {
  page: PageSeen;
  corners: Spot[];
  tall: number;
  rows: Row[];
  onMove: (key: number, to: Partial<Row>) => void;
};

const WIDE = 1000;
const STEP = 0.002; // of the page's height, for a press of an arrow key
const LEAST = 0.004;

/** The paper made flat with a band for every row; its two lines are dragged, or moved by arrow keys. */
function Bands({ page, corners, tall, rows, onMove }: BandsProps) {
  const height = WIDE * tall;
  const svg = useRef<SVGSVGElement>(null);
  const held = useRef<{ key: number; line: "mid" | "base" } | null>(null);
  const move = (row: Row, line: "mid" | "base", to: number) => {
    const at = Math.min(Math.max(to, 0), 1);
    if (line === "mid" && at < row.base - LEAST) onMove(row.key, { mid: at });
    if (line === "base" && at > row.mid + LEAST) onMove(row.key, { base: at });
  };
  const letGo = () => {
    held.current = null;
  };
  return (
    <svg
      ref={svg}
      viewBox={`0 0 ${WIDE} ${height}`}
      role="group"
      aria-label="The paper with its rows"
      className="max-h-[66vh] w-full touch-none border border-pale bg-sheet"
      onPointerMove={(event) => {
        const row = rows.find((one) => one.key === held.current?.key);
        if (!row || !held.current) return;
        const place = svg.current?.getScreenCTM()?.inverse();
        move(
          row,
          held.current.line,
          new DOMPoint(event.clientX, event.clientY).matrixTransform(place).y / height,
        );
      }}
      onPointerUp={letGo}
      onPointerLeave={letGo}
    >
      <image href={flatOf(page.id, corners)} width={WIDE} height={height} preserveAspectRatio="none" />
      {rows.map((row, i) => (
        <g key={row.key}>
          <rect
            y={row.mid * height}
            width={WIDE}
            height={(row.base - row.mid) * height}
            fill="var(--color-ochre)"
            fillOpacity={0.18}
          />
          {(["mid", "base"] as const).map((line) => (
            <g
              key={line}
              role="slider"
              tabIndex={0}
              aria-label={`Row ${i + 1}, ${line} line`}
              aria-orientation="vertical"
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Math.round(row[line] * 1000) / 10}
              className="cursor-ns-resize"
              onPointerDown={(event) => {
                held.current = { key: row.key, line };
                event.currentTarget.focus();
              }}
              onKeyDown={(event) => {
                const by = { ArrowUp: -STEP, ArrowDown: STEP }[event.key];
                if (by === undefined) return;
                event.preventDefault();
                event.stopPropagation();
                move(row, line, row[line] + by);
              }}
            >
              <line
                x2={WIDE}
                y1={row[line] * height}
                y2={row[line] * height}
                stroke="transparent"
                strokeWidth={26}
              />
              <line
                x2={WIDE}
                y1={row[line] * height}
                y2={row[line] * height}
                stroke={line === "base" ? "var(--color-brick)" : "var(--color-line)"}
                className={clsx(line === "mid" && "[stroke-dasharray:10_6]")}
                strokeWidth={3}
              />
            </g>
          ))}
          <text x={8} y={row.base * height - 6} fontSize={24} fill="var(--color-brick)">
            {i + 1}
          </text>
        </g>
      ))}
    </svg>
  );
}
