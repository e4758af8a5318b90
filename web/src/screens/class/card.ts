/** How a card looks that is one of several to choose from. */
export const CARD =
  "rounded-sm border p-2 text-left hover:border-line aria-checked:border-ink aria-checked:bg-ochre";
