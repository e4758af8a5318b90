import { type ReactNode, useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import { Waiting } from "@/screens/write/Aids";
import { TeacherOnly } from "@/screens/write/TeacherOnly";
import { Button } from "@/ui/Button";
import { PhonePage } from "./PhonePage";
import { TabletRow } from "./TabletRow";
import { TabletWord } from "./TabletWord";
import { type Tablet, useTablet } from "./useTablet";

/** A child's tablet: it comes in with a code, takes a name, and writes what is handed out. Nothing else. */
export function TabletScreen() {
  const tablet = useTablet();
  const { page } = tablet;
  useEffect(() => {
    // where the machine is trusted the page itself is kept, and opens without a network
    if ("serviceWorker" in navigator && window.isSecureContext)
      navigator.serviceWorker.register("/sw.js", { scope: "/tablet" }).catch(() => {});
  }, []);
  if (page === undefined) return <Page title="First Loop">{tablet.offline && <NoNetwork />}</Page>;
  if (page === null) return <ComeIn tablet={tablet} />;
  if (page.is_phone && page.admitted) return <PhonePage />;
  if (!page.open) return <Over tablet={tablet} name={page.child?.name} />;
  if (!page.child && !page.is_phone) return <WhoAreYou tablet={tablet} />;
  if (!page.admitted) return <Wait tablet={tablet} name={page.child?.name ?? "This phone"} />;
  const { sheet, child } = page;
  if (!sheet || !child) return <Ready tablet={tablet} name={child?.name ?? ""} />;
  const key = `${sheet.kind} ${sheet.id} ${sheet.started_at}`;
  const state = <State tablet={tablet} resting={page.pens_down} />;
  return (
    <main className="relative flex h-dvh flex-col overflow-hidden bg-paper">
      {sheet.kind === "row" && sheet.model ? (
        <TabletRow
          key={key}
          sheet={sheet}
          model={sheet.model}
          name={child.name}
          rubs={page.rubs_out}
          resting={page.pens_down}
          state={state}
        />
      ) : (
        <TabletWord
          key={key}
          sheet={sheet}
          name={child.name}
          rubs={page.rubs_out}
          resting={page.pens_down}
          state={state}
        />
      )}
    </main>
  );
}

/** A page of a few words in the middle. */
function Page({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="flex min-h-dvh flex-col items-center justify-center gap-6 bg-paper p-8 text-center">
      <title>{`${title} · First Loop`}</title>
      <h1 className="text-huge font-bold">{title}</h1>
      {children}
    </main>
  );
}

const NoNetwork = () => (
  <p role="status" className="text-large text-graphite">
    No network: wait.
  </p>
);

function ComeIn({ tablet }: { tablet: Tablet }) {
  const [search] = useSearchParams();
  const [code, setCode] = useState(search.get("code") ?? "");
  const [trouble, setTrouble] = useState("");
  const tried = useRef(false);
  const come = (given: string) => tablet.join(given).catch((error: Error) => setTrouble(error.message));
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, with the code of the picture
  useEffect(() => {
    if (tried.current || !code) return;
    tried.current = true;
    void come(code);
  }, []);
  return (
    <Page title="Come in">
      <form
        className="flex flex-col items-center gap-5"
        onSubmit={(event) => {
          event.preventDefault();
          setTrouble("");
          void come(code);
        }}
      >
        <label className="text-large">
          The code on the board
          <input
            value={code}
            autoCapitalize="characters"
            autoComplete="off"
            spellCheck={false}
            onChange={(event) => setCode(event.target.value.toUpperCase())}
            className="mt-2 block h-20 w-80 rounded-sm border border-pale bg-sheet text-center text-huge tracking-[0.2em]"
          />
        </label>
        {trouble && (
          <p role="alert" className="max-w-md text-brick">
            {trouble}
          </p>
        )}
        <Button look="strong" big type="submit" disabled={code.replace(/\s/g, "").length < 4}>
          Come in
        </Button>
      </form>
      <Kept unsent={tablet.unsent} />
      <Waiting />
    </Page>
  );
}

function WhoAreYou({ tablet }: { tablet: Tablet }) {
  const [trouble, setTrouble] = useState("");
  return (
    <Page title="Who are you?">
      <ul className="flex max-w-4xl flex-wrap justify-center gap-3">
        {tablet.page?.names.map((one) => (
          <li key={one.id}>
            <Button
              big
              className="min-w-40"
              onClick={() => tablet.takeName(one.id).catch((error: Error) => setTrouble(error.message))}
            >
              {one.name}
            </Button>
          </li>
        ))}
      </ul>
      {trouble && (
        <p role="alert" className="text-brick">
          {trouble}
        </p>
      )}
    </Page>
  );
}

const Wait = ({ tablet, name }: { tablet: Tablet; name: string }) => (
  <Page title={name}>
    <p role="status" className="text-title">
      Wait a moment. Your teacher lets you in.
    </p>
    <WayOut tablet={tablet} />
  </Page>
);

const Ready = ({ tablet, name }: { tablet: Tablet; name: string }) => (
  <Page title={name}>
    <p role="status" className="text-title">
      {tablet.offline ? "No network: wait." : "Pen ready. Look at your teacher."}
    </p>
    <p className="max-w-md text-graphite">
      Feet flat, a light grip, elbow on the table. If it hurts, stop and say so.
    </p>
    <Kept unsent={tablet.unsent} />
    <Waiting />
    <WayOut tablet={tablet} />
  </Page>
);

const Over = ({ tablet, name }: { tablet: Tablet; name: string | undefined }) => (
  <Page title={name ? `Thank you, ${name}` : "Thank you"}>
    <p role="status" className="text-title">
      The lesson is over.
    </p>
    <Kept unsent={tablet.unsent} />
    <Waiting />
    <Button big disabled={tablet.unsent > 0} onClick={() => void tablet.leave()}>
      Come into another room
    </Button>
  </Page>
);

/** What has not been sent yet, so that nobody switches the tablet off in the belief that it has. */
const Kept = ({ unsent }: { unsent: number }) =>
  unsent > 0 && (
    <p role="status" className="border-l-4 border-ochre px-4 text-large">
      {unsent === 1 ? "1 letter or word is" : `${unsent} letters are`} still kept on this tablet. It sends
      them by itself.
    </p>
  );

const WayOut = ({ tablet }: { tablet: Tablet }) => (
  <TeacherOnly>
    {/* what is kept is sent as the tablet that was let in: another would be turned away */}
    <Button big disabled={tablet.unsent > 0} onClick={() => void tablet.leave()}>
      Leave the room
    </Button>
  </TeacherOnly>
);

/** Over the sheet: pens down, in two words; and beside it, in three, that there is no network. */
function State({ tablet, resting }: { tablet: Tablet; resting: boolean }) {
  return (
    <>
      {tablet.offline && (
        <p role="status" className="absolute top-6 left-1/2 -translate-x-1/2 text-large text-graphite">
          No network: kept
        </p>
      )}
      {resting && (
        <div
          role="status"
          className="absolute inset-0 z-10 flex items-center justify-center bg-paper/85 text-[72px] leading-tight font-bold"
        >
          Pens down
        </div>
      )}
    </>
  );
}
