import { useEffect, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { sheetFor, sheetOfChild } from "@/api/sheets";
import type { Table } from "./draft";

const all = (text: string | null, between: string) => (text ?? "").split(between).filter(Boolean);

/** A sheet that another screen asks for in the address is laid on the table, and the address is cleared. */
export function useWanted(classId: number, table: Table) {
  const [given] = useSearchParams();
  const navigate = useNavigate();
  const [error, setError] = useState("");
  const asked = given.toString();
  const put = useRef(table.put);
  put.current = table.put;
  useEffect(() => {
    if (!asked) return;
    let stale = false;
    const params = new URLSearchParams(asked);
    const child = params.get("child");
    const dictation = params.get("dictation");
    const made = child
      ? sheetOfChild(Number(child)).then((one) => ({
          name: "What comes next", // no name of a child goes into a file's name
          wish: one.wish,
          child: one.child.id,
        }))
      : sheetFor(classId, {
          letters: all(params.get("letters"), " "),
          words: all(params.get("words"), " "),
          recall: all(params.get("recall"), " "),
          line: params.get("line") ?? "",
          dictation_id: dictation ? Number(dictation) : null,
        });
    made.then(
      (draft) => {
        if (stale) return;
        put.current(draft);
        setError("");
        navigate("/sheets/this", { replace: true });
      },
      (problem: Error) => !stale && setError(problem.message),
    );
    return () => {
      stale = true;
    };
  }, [asked, classId, navigate]);
  return { error, waiting: Boolean(asked) && !error };
}
