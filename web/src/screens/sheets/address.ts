/** Where the sheet for something is made. */
export function sheetAddress(wanted: Record<string, string | number>): string {
  const params = new URLSearchParams(Object.entries(wanted).map(([key, value]) => [key, String(value)]));
  return `/sheets/this?${params}`;
}
