/** Today in words and numbers, as it is written at the head of a page. */
export const longDate = () =>
  new Intl.DateTimeFormat("en-GB", { weekday: "long", day: "numeric", month: "long" })
    .format(new Date())
    .replace(",", "");
