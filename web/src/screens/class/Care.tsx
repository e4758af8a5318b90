import { Link } from "react-router";

/** What is kept, where, and what First Loop is not for. */
export function Care({ linked = false }: { linked?: boolean }) {
  return (
    <section
      aria-label="Care of records"
      className="mt-8 space-y-2 border-t border-hair pt-4 text-small text-graphite"
    >
      <p>
        Kept here: first name and initial, hand, what was written and when, what the checker saw, and your
        marks. It stays on this machine and goes nowhere else by itself. Your school’s own data-protection and
        safeguarding rules apply to it.
        {linked && (
          <>
            {" "}
            <Link className="underline underline-offset-4" to="/records">
              Care of records
            </Link>
          </>
        )}
      </p>
      <p>
        First Loop measures letters; it does not diagnose. Where difficulty lasts, or writing hurts, ask the
        qualified professionals your school works with. What is taught, and how, is your school’s:{" "}
        <Link className="underline underline-offset-4" to="/differences">
          where schools differ
        </Link>
        .
      </p>
    </section>
  );
}
