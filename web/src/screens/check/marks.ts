import type { MarkVerdict } from "@/api/client";

/** The marks of a teacher, each with its key. */
export const MARKS: { verdict: MarkVerdict; name: string; key: string }[] = [
  { verdict: "secure", name: "Secure", key: "1" },
  { verdict: "near", name: "Near", key: "2" },
  { verdict: "fix", name: "Fix", key: "3" },
];
