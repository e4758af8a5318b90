import clsx from "clsx";
import { useState } from "react";
import { NavLink, Outlet, useNavigate } from "react-router";
import { useDoor, useDoorSteps } from "@/api/door";
import { useLine } from "@/api/queries";
import { longDate } from "./days";
import { FindDialog } from "./FindDialog";
import { FirstDay } from "./FirstDay";
import { KeysDialog } from "./KeysDialog";
import { useClass, useSchool } from "./school";
import { SCREENS } from "./screens";
import { startGoing, useKeys } from "./useKeys";

/** Margin with the screens as words, one vertical rule, and the page. */
export function Shell() {
  const [open, setOpen] = useState<"keys" | "find" | null>(null);
  const navigate = useNavigate();
  useKeys({ "?": () => setOpen("keys"), "/": () => setOpen("find"), g: startGoing });
  useKeys(Object.fromEntries(SCREENS.map((one) => [one.key, () => navigate(one.to)])), { whileGoing: true });
  return (
    <div className="grid min-h-full grid-cols-[136px_minmax(0,1fr)] max-[1100px]:grid-cols-[112px_minmax(0,1fr)]">
      <a href="#page" className="sr-only focus:not-sr-only focus:absolute focus:m-2 focus:bg-paper focus:p-2">
        To the page
      </a>
      <Margin onKeys={() => setOpen("keys")} onFind={() => setOpen("find")} />
      <main
        id="page"
        tabIndex={-1}
        className="flex min-w-0 flex-col px-8 pt-6 pb-6 outline-none max-[1100px]:px-6"
      >
        <FirstDay />
        <Outlet />
      </main>
      <KeysDialog open={open === "keys"} onOpenChange={(on) => setOpen(on ? "keys" : null)} />
      <FindDialog open={open === "find"} onOpenChange={(on) => setOpen(on ? "find" : null)} />
    </div>
  );
}

function Margin({ onKeys, onFind }: { onKeys: () => void; onFind: () => void }) {
  const { classes, chosen, choose } = useSchool();
  const { data: door } = useDoor();
  const { leave } = useDoorSteps();
  return (
    <header className="sticky top-0 flex h-screen flex-col overflow-y-auto border-r border-graphite/50 pt-7 pb-6 pl-6 max-[1100px]:pl-4">
      <NavLink to="/" aria-label="First Loop" className="mb-6 block">
        <Lettering text="First" height={30} />
        <Lettering text="Loop" height={30} />
      </NavLink>
      <nav aria-label="Screens">
        <ul>
          {SCREENS.map((screen) => (
            <li key={screen.to}>
              <NavLink
                to={screen.to}
                className={({ isActive }) =>
                  isActive
                    ? "relative -ml-6 block py-[6px] pl-6 font-bold before:absolute before:inset-y-[7px] before:left-0 before:w-1 before:bg-brick max-[1100px]:-ml-4 max-[1100px]:pl-4"
                    : "block py-[6px] text-graphite hover:text-ink"
                }
              >
                {screen.name}
              </NavLink>
            </li>
          ))}
        </ul>
      </nav>
      <div className="mt-auto space-y-2 pr-3 text-small text-graphite">
        {classes.length > 1 ? (
          <div className="relative -mr-2">
            <select
              aria-label="Class"
              value={chosen.id}
              onChange={(event) => choose(Number(event.target.value))}
              className="w-full appearance-none text-ellipsis rounded-sm border border-pale bg-paper py-1 pr-4 pl-1"
            >
              {classes.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </select>
            <span aria-hidden className="pointer-events-none absolute top-1 right-1">
              ▾
            </span>
          </div>
        ) : (
          <p>{chosen.name}</p>
        )}
        <NavLink to="/class/new" className="block hover:text-ink">
          New class
        </NavLink>
        {door?.needed && (
          <button type="button" className="block hover:text-ink" onClick={() => leave.mutate()}>
            Leave
          </button>
        )}
        <button type="button" className="block hover:text-ink" onClick={onFind}>
          Find <kbd className="font-sans">/</kbd>
        </button>
        <button type="button" className="block hover:text-ink" onClick={onKeys}>
          Keys <kbd className="font-sans">?</kbd>
        </button>
      </div>
    </header>
  );
}

/** Words in the class's own letterforms; `height` is that of the rise band to the drop line, pixels. */
export function Lettering({ text, height, weight = 9 }: { text: string; height: number; weight?: number }) {
  const { id } = useClass();
  const { data } = useLine(text, id);
  if (!data) return <span className="block" style={{ height }} />;
  const top = -212;
  const tall = 324;
  return (
    <svg
      role="img"
      aria-label={text}
      height={height}
      viewBox={`0 ${top} ${data.width} ${tall}`}
      className="block"
    >
      <g fill="none" stroke="currentColor" strokeWidth={weight} strokeLinecap="round" strokeLinejoin="round">
        {data.paths.map((d) => (
          <path key={d} d={d} />
        ))}
      </g>
    </svg>
  );
}

/** Head of a page: what it is about on the left, the long date on the right. */
export function PageHead({
  title,
  sub,
  crowded = false,
  children,
}: {
  title: string;
  sub?: string | undefined;
  /** Much stands in the head: a narrow screen has no room for the date beside it. */
  crowded?: boolean;
  children?: React.ReactNode;
}) {
  return (
    <header className="mb-4 flex min-h-10 items-center gap-x-4 gap-y-1 max-[900px]:flex-wrap">
      <title>{`${title} · First Loop`}</title>
      <h1 className="text-title font-bold min-[900px]:whitespace-nowrap">{title}</h1>
      {sub && <p className="mt-1 min-w-0 truncate text-small text-graphite">{sub}</p>}
      {children}
      <div className={clsx("ml-auto text-ink/75", crowded ? "max-[1100px]:hidden" : "max-[900px]:hidden")}>
        <Lettering text={longDate()} height={42} weight={7} />
      </div>
    </header>
  );
}
