/**
 * Days and moments in words. A day ("2026-11-25") is the school's already and no time zone moves it; a moment
 * is shown by the school's clock, wherever the browser stands.
 */
let zone: string | undefined;

/** The school's time zone, as the records say. */
export function keepSchoolTime(name: string) {
  zone = name;
}

type Options = Intl.DateTimeFormatOptions;

/** How to write a day. */
export function dayFormat(options: Options): (day: string | Date) => string {
  const format = new Intl.DateTimeFormat("en-GB", { ...options, timeZone: "UTC" });
  return (day) => format.format(new Date(day));
}

/** How to write a moment. */
export function momentFormat(options: Options): (at: string | Date) => string {
  const made = new Map<string | undefined, Intl.DateTimeFormat>();
  return (at) => {
    const format = made.get(zone) ?? new Intl.DateTimeFormat("en-GB", { ...options, timeZone: zone });
    made.set(zone, format);
    return format.format(new Date(at));
  };
}

const long = momentFormat({ weekday: "long", day: "numeric", month: "long" });

/** Today in words and numbers, as it is written at the head of a page. */
export const longDate = () => long(new Date()).replace(",", "");

/** The day it is by the school's clock, as it stands in an address: 2026-11-25. */
export const schoolDay = () =>
  new Intl.DateTimeFormat("en-CA", { dateStyle: "short", timeZone: zone }).format(new Date());
