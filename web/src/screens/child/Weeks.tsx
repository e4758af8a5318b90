import type { LetterHistory } from "@/api/client";
import { dayFormat } from "@/app/days";
import { Bead, WORDS } from "@/ui/Bead";
import { notesInWords } from "@/ui/seen";

const HEADINGS = [
  ["direction", "Direction"],
  ["shape", "Shape"],
  ["size", "Size"],
] as const;

const monday = dayFormat({ day: "numeric", month: "short" });

/** The three headings over the weeks: how most of each week's attempts stood. */
export function Weeks({ history }: { history: LetterHistory }) {
  const weeks = [...new Set(history.weeks.map((one) => one.week))];
  const cell = (week: number, heading: string) =>
    history.weeks.find((one) => one.week === week && one.heading === heading);
  return (
    <table className="border-collapse">
      <caption className="mb-1 text-left font-bold">By week</caption>
      <thead>
        <tr className="border-t-2 border-ink text-small text-graphite">
          <th scope="col" className="w-24 text-left text-small font-normal text-graphite">
            Heading
          </th>
          {weeks.map((week) => {
            const begins = cell(week, "direction")?.monday;
            return (
              <th
                key={week}
                scope="col"
                className="px-3 text-center font-normal"
                title={begins && `from ${monday(begins)}`}
              >
                week {week}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>
        {HEADINGS.map(([key, title]) => (
          <tr key={key} className="h-9 border-b border-hair">
            <th scope="row" className="text-left font-normal">
              {title}
            </th>
            {weeks.map((week) => {
              const one = cell(week, key);
              if (!one) return <td key={week} />;
              const total = one.secure + one.near + one.fix;
              const counts = `${one.secure} secure, ${one.near} near, ${one.fix} to fix`;
              return (
                <td key={week} className="px-3 text-center" title={counts}>
                  <span className="sr-only">{`${WORDS[one.usual]}: ${counts}`}</span>
                  <span
                    aria-hidden="true"
                    className="inline-flex items-center gap-1 text-small text-graphite"
                  >
                    <Bead verdict={one.usual} silent />
                    {one.secure}/{total}
                  </span>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const NOTES = 4;

/** What the teacher saw while the child wrote this letter on paper. */
export function WatchedNotes({ history }: { history: LetterHistory }) {
  if (!history.watched.length) return null;
  return (
    <p className="mt-2 text-small">
      <span className="text-graphite">Watched on paper: </span>
      {notesInWords(history.watched, NOTES)}
    </p>
  );
}

/** The commonest slips: how often in the earlier rows, how often in the later ones. */
export function Slips({ history }: { history: LetterHistory }) {
  if (!history.slips.length) {
    return <p className="mt-3 text-graphite">No slip has been seen in any of these rows.</p>;
  }
  return (
    <table className="mt-3 w-full border-collapse text-small">
      <thead>
        <tr className="border-b border-ink text-graphite">
          <th scope="col" className="text-left font-normal">
            What was seen most
          </th>
          <th scope="col" className="w-24 text-right font-normal">
            {history.late_rows ? "earlier" : "times"}
          </th>
          {history.late_rows > 0 && (
            <th scope="col" className="w-24 text-right font-normal">
              of late
            </th>
          )}
        </tr>
      </thead>
      <tbody>
        {history.slips.slice(0, 4).map((slip) => (
          <tr key={slip.code} className="border-b border-hair">
            <td className="truncate first-letter:uppercase">{slip.name}</td>
            <td className="text-right">{slip.early}</td>
            {history.late_rows > 0 && <td className="text-right font-bold">{slip.late}</td>}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
