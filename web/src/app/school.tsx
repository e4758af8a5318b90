import { createContext, type ReactNode, useContext, useState } from "react";
import type { SchoolClass } from "@/api/client";
import { useClasses } from "@/api/queries";
import { NewClass } from "@/screens/class/NewClass";
import { Loading, Trouble } from "@/ui/States";

const REMEMBERED = "first-loop.class";

type School = { classes: SchoolClass[]; chosen: SchoolClass; choose: (id: number) => void };

const Context = createContext<School | null>(null);

/** The class that the screens are about. Until there is one, the only screen is the one that makes it. */
export function SchoolProvider({ children }: { children: ReactNode }) {
  const query = useClasses();
  const [id, setId] = useState(() => Number(localStorage.getItem(REMEMBERED)));
  if (query.error && !query.data) {
    return (
      <main className="p-8">
        <Trouble error={query.error} again={() => query.refetch()} />
      </main>
    );
  }
  if (!query.data) {
    return (
      <main className="p-8">
        <Loading what="your classes" />
      </main>
    );
  }
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
