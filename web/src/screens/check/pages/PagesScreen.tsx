import { useEffect, useState } from "react";
import type { PageSummary, Pile } from "@/api/client";
import { usePage, usePile, usePileSteps } from "@/api/pages";
import { PageHead } from "@/app/Shell";
import { useClass } from "@/app/school";
import { useAddress } from "@/app/useAddress";
import { LinkButton } from "@/ui/Button";
import { Loaded } from "@/ui/States";
import { BringIn, useDropped } from "./BringIn";
import { NoPages } from "./NoPages";
import { OnePage } from "./OnePage";
import { PileStrip } from "./PileStrip";

const counted = (count: number, one: string, more: string) => `${count} ${count === 1 ? one : more}`;

/** "18 read of 20 · 2 want you". */
function said(pile: Pile): string {
  const wanting = pile.pages.filter((one) => one.wants).length;
  const reading = pile.to_read > 0 ? `${pile.read} read of ${pile.read + pile.to_read}` : "";
  const stopped = pile.stopped ? "stopped" : "";
  const wants = wanting > 0 ? counted(wanting, "wants you", "want you") : "";
  const all = pile.pages.length > 0 && !wants && !reading ? "nothing to decide" : "";
  return [reading, stopped, wants, all].filter(Boolean).join(" · ");
}

/** Pages that came back: the pile, one page made straight, one place of it large. */
export function PagesScreen() {
  const { id } = useClass();
  const pile = usePile(id);
  const steps = usePileSteps(id);
  const dropping = useDropped((files) => steps.bring.mutate(files));
  return (
    <>
      <PageHead crowded title="Pages that came back">
        <BringIn steps={steps} />
        <LinkButton look="quiet" to="/check">
          Back to the queue
        </LinkButton>
      </PageHead>
      {dropping && (
        <p className="pointer-events-none fixed inset-6 z-20 grid place-items-center border-2 border-dashed border-ink bg-paper/85 text-large">
          Let go, and they are read.
        </p>
      )}
      <Loaded query={pile} what="the pages">
        {(data) => <Shown key={id} pile={data} steps={steps} />}
      </Loaded>
    </>
  );
}

type ShownProps = { pile: Pile; steps: ReturnType<typeof usePileSteps> };

function Shown({ pile, steps }: ShownProps) {
  const { search, set } = useAddress();
  const asked = Number(search.get("page"));
  const older = usePage(asked || undefined).data; // one that is in the records for long is in no pile
  const chosen = pile.pages.find((one) => one.id === asked) ?? (older?.id === asked ? older : pile.pages[0]);
  const choose = (page: PageSummary | number) => set({ page: typeof page === "number" ? page : page.id });
  const held = useHeld(pile.pages);
  const next = () => {
    const at = held.findIndex((one) => one.id === chosen?.id);
    const others = [...held.slice(at + 1), ...held.slice(0, Math.max(at, 0))];
    const to = others.find((one) => one.wants) ?? others.find((one) => !one.agreed);
    if (to) choose(to);
  };
  const page = usePage(chosen?.id);
  if (!chosen) return <NoPages pile={pile} steps={steps} />;
  return (
    <div className="flex flex-1 flex-col">
      {page.data?.id === chosen.id ? (
        <OnePage key={chosen.id} page={page.data} steps={steps} onReplaced={choose} />
      ) : (
        <Loaded query={page} what="the page">
          {() => <div className="min-h-[560px]" />}
        </Loaded>
      )}
      <PileStrip pile={pile} pages={held} chosen={chosen} onChoose={choose} onNext={next} steps={steps}>
        {said(pile)}
      </PileStrip>
    </div>
  );
}

/** Pages keep their places while the teacher is at them; new ones come behind. */
function useHeld(pages: PageSummary[]): PageSummary[] {
  const [order, setOrder] = useState<number[]>(() => pages.map((one) => one.id));
  useEffect(() => {
    setOrder((now) => {
      const fresh = pages.map((one) => one.id).filter((id) => !now.includes(id));
      return fresh.length ? [...now, ...fresh] : now;
    });
  }, [pages]);
  const known = new Map(pages.map((one) => [one.id, one]));
  return order.flatMap((id) => known.get(id) ?? []);
}
