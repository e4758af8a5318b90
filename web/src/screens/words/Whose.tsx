import { useFamilies, useSounds } from "@/api/queries";
import { schoolDay } from "@/app/days";
import { useClass } from "@/app/school";
import { Slot } from "./Slot";
import type { useAsked } from "./useAsked";

type Props = { asked: ReturnType<typeof useAsked> };

/** The half of the sentence that every list of words has: whose letters, and which sounds. */
export function Whose({ asked }: Props) {
  const { id, children } = useClass();
  const families = useFamilies(id).data?.families ?? [];
  const sets = useSounds(id).data?.sets ?? [];
  const { get, set } = asked;
  const any = get("any_letters") === "true";
  const child = get("child_id");
  const family = get("family");
  const alone = get("before") === "false";
  return (
    <>
      {" "}
      of{" "}
      <Slot
        name="Which letters"
        value={any ? "any" : child ? `child ${child}` : get("on") ? "day" : "today"}
        onChange={(value) =>
          set({
            any_letters: value === "any" || null,
            child_id: value.startsWith("child ") ? value.slice(6) : null,
            on: value === "day" ? schoolDay() : null,
          })
        }
      >
        <option value="today">letters taught by today</option>
        <option value="day">letters taught by a day</option>
        <option value="any">any letters</option>
        <optgroup label="letters one child has begun">
          {children.map((one) => (
            <option key={one.id} value={`child ${one.id}`}>
              letters {one.name} has begun
            </option>
          ))}
        </optgroup>
      </Slot>
      {get("on") && (
        <input
          type="date"
          aria-label="Taught by"
          value={get("on")}
          onChange={(event) => set({ on: event.target.value || null })}
          className="mx-1 h-10 border-b-2 border-line bg-band px-2"
        />
      )}
      , from{" "}
      <Slot
        name="Which families"
        value={family ? `${family}${alone ? "!" : ""}` : ""}
        onChange={(value) =>
          set({ family: value.replace("!", "") || null, before: value.endsWith("!") ? false : null })
        }
      >
        <option value="">every family</option>
        {families.map((one) => (
          <option key={one.key} value={one.key}>
            {one.name.toLowerCase()} and before
          </option>
        ))}
        {families.map((one) => (
          <option key={`${one.key}!`} value={`${one.key}!`}>
            {one.name.toLowerCase()} only
          </option>
        ))}
      </Slot>
      , with{" "}
      <Slot name="Which sounds" value={get("sets")} onChange={(value) => set({ sets: value || null })}>
        <option value="">every sound</option>
        {sets.map((one) => (
          <option key={one.number} value={one.number}>
            sounds up to set {one.number} ({one.units.map((unit) => unit.text).join(" ")})
          </option>
        ))}
      </Slot>
    </>
  );
}

type SoundProps = {
  name: string;
  value: string;
  onChange: (value: string) => void;
  /** What none of them is called, where none can be chosen. */
  none?: string;
};

/** A place in a sentence at which one of the class's sounds is chosen. */
export function SoundSlot({ none, ...slot }: SoundProps) {
  const { id } = useClass();
  const units = useSounds(id).data?.sets.flatMap((one) => one.units.map((unit) => unit.text)) ?? [];
  const others = slot.value && !units.includes(slot.value) ? [slot.value] : []; // one of another order
  return (
    <Slot {...slot}>
      {none && <option value="">{none}</option>}
      {[...others, ...units].map((unit) => (
        <option key={unit} value={unit}>
          {unit}
        </option>
      ))}
    </Slot>
  );
}
