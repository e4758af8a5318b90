import { createContext, type ReactNode, useContext, useState } from "react";
import type { Ruling, SchoolClass } from "@/api/client";
import { useAbout, useClasses } from "@/api/queries";
import { NewClass } from "@/screens/class/NewClass";
import { Loading, Trouble } from "@/ui/States";
import { keepSchoolTime } from "./days";

const REMEMBERED = "first-loop.class";

type School = { classes: SchoolClass[]; chosen: SchoolClass; choose: (id: number) => void };

const Context = createContext<School | null>(null);

/** The class that the screens are about. Until there is one, the only screen is the one that makes it. */
export function SchoolProvider({ children }: { children: ReactNode }) {
  const query = useClasses();
  const about = useAbout();
  const [id, setId] = useState(() => Number(localStorage.getItem(REMEMBERED)));
  const missing = [query, about].find((one) => one.error && !one.data);
  if (missing?.error) {
    return (
      <main className="p-8">
        <Trouble error={missing.error} again={() => missing.refetch()} />
      </main>
    );
  }
  if (!query.data || !about.data) {
    return (
      <main className="p-8">
        <Loading what="your classes" />
      </main>
    );
  }
  keepSchoolTime(about.data.time_zone);
  const chosen = query.data.find((one) => one.id === id) ?? query.data[0];
  if (!chosen) return <NewClass />;
  const choose = (next: number) => {
    localStorage.setItem(REMEMBERED, String(next));
    setId(next);
  };
  return <Context value={{ classes: query.data, chosen, choose }}>{children}</Context>;
}

export function useSchool(): School {
  const school = useContext(Context);
  if (!school) throw new Error("useSchool needs a SchoolProvider above it");
  return school;
}

export const useClass = (): SchoolClass => useSchool().chosen;

export const useRuling = (): Ruling => useClass().ruled;

/** The class's ruling; none on a tablet, which knows no class and is told its lines with every sheet. */
export const useRulingIfAny = (): Ruling | undefined => useContext(Context)?.chosen.ruled;
