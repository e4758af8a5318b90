import { useRulings } from "@/api/classes";
import type { SheetWish } from "@/api/client";
import { Tick } from "@/ui/Tick";
import { Num, Pick, Typing } from "./fields";

type Props = { wish: SheetWish; onWish: (wish: SheetWish) => void };

/** Lines and page of a sheet: what is changed every day in sight, the rest one step away. */
export function PageFields({ wish, onWish }: Props) {
  const rulings = useRulings().data ?? [];
  const set = (change: Partial<SheetWish>) => onWish({ ...wish, ...change });
  return (
    <section aria-label="Lines" className="border-t-2 border-ink pt-2">
      <b>Lines</b>
      <div className="mt-1 flex flex-wrap items-end gap-x-4 gap-y-2">
        <Num
          label="Small letters, mm"
          value={wish.xh_mm}
          least={4}
          most={20}
          step={0.5}
          onValue={(xh_mm) => set({ xh_mm })}
        />
        <Pick
          label="Ruling"
          value={wish.ruling}
          options={rulings.map((one) => [one.key, one.name] as const)}
          onValue={(ruling) => set({ ruling })}
        />
        <Pick
          label="For"
          value={wish.printing}
          options={[
            ["colour", "a colour printer"],
            ["grey", "a grey copier"],
            ["black", "a copier with black only"],
          ]}
          onValue={(printing) => set({ printing })}
        />
        <Pick
          label="To trace"
          value={wish.traced}
          options={[
            ["pale", "pale"],
            ["dotted", "dotted"],
          ]}
          onValue={(traced) => set({ traced })}
        />
      </div>
      <details className="mt-2">
        <summary className="cursor-pointer py-1 text-graphite hover:text-ink">Page and options</summary>
        <div className="mt-1 flex flex-wrap items-end gap-x-5 gap-y-2">
          <Typing label="Title" value={wish.title} most={60} onValue={(title) => set({ title })} />
          <Pick
            label="Page"
            value={wish.page}
            options={[
              ["a4", "A4"],
              ["letter", "Letter"],
            ]}
            onValue={(page) => set({ page })}
          />
          <Pick
            label="Turned"
            value={wish.across ? "across" : "upright"}
            options={[
              ["upright", "upright"],
              ["across", "across"],
            ]}
            onValue={(turned) => set({ across: turned === "across" })}
          />
          <Num
            label="Margins, mm"
            value={wish.margin_mm}
            least={8}
            most={60}
            onValue={(margin_mm) => set({ margin_mm })}
          />
          <Num
            label="For binding, mm"
            value={wish.binding_mm}
            least={0}
            most={40}
            onValue={(binding_mm) => set({ binding_mm })}
          />
          <Num
            label="Between lines, mm"
            value={wish.gap_mm}
            least={0}
            most={60}
            onValue={(gap_mm) => set({ gap_mm })}
          />
          <Pick
            label="Pages at most"
            value={String(wish.pages ?? "")}
            options={[
              ["", "as many as it takes"],
              ["1", "one"],
              ["2", "two"],
              ["4", "four"],
            ]}
            onValue={(pages) => set({ pages: pages ? Number(pages) : null })}
          />
          <Pick
            label="To finish"
            value={wish.finished}
            options={[
              ["half", "the first half is there"],
              ["stroke", "the first stroke is there"],
            ]}
            onValue={(finished) => set({ finished })}
          />
        </div>
        <div className="mt-2 grid grid-cols-2 gap-x-5 gap-y-1 max-[900px]:grid-cols-1">
          <Tick on={wish.left_hand} onTick={(left_hand) => set({ left_hand })}>
            For a left hand: the model on the right too
          </Tick>
          <Tick on={wish.rings_to_tick} onTick={(rings_to_tick) => set({ rings_to_tick })}>
            A ring under each letter alone, to tick
          </Tick>
          <Tick on={wish.units} onTick={(units) => set({ units })}>
            Underline letters that are one sound
          </Tick>
          <Tick on={wish.washed} onTick={(washed) => set({ washed })}>
            Middle band tinted
          </Tick>
          <Tick on={wish.name_line} onTick={(name_line) => set({ name_line })}>
            A line for the name
          </Tick>
          <Tick on={wish.care} onTick={(care) => set({ care })}>
            A line of care
          </Tick>
          <Tick on={wish.bar} onTick={(bar) => set({ bar })}>
            A bar of 100 mm, to check the printer
          </Tick>
          <Tick on={wish.measured} onTick={(measured) => set({ measured })}>
            Marks by which it can be read back
          </Tick>
        </div>
      </details>
    </section>
  );
}
