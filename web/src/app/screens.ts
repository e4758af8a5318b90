/** The screens in the order of the work. `key` follows g. */
export const SCREENS = [
  { name: "Today", to: "/today", key: "t" },
  { name: "Plan", to: "/plan", key: "p" },
  { name: "Families", to: "/families", key: "f" },
  { name: "Letters", to: "/letters", key: "l" },
  { name: "Words", to: "/words", key: "o" },
  { name: "Board", to: "/board", key: "b" },
  { name: "Write", to: "/write", key: "w" },
  { name: "Sheets", to: "/sheets", key: "s" },
  { name: "Check", to: "/check", key: "c" },
  { name: "Class", to: "/class", key: "k" },
] as const;

/** Keys of each screen, shown by `?`. */
export const KEYS: { where: string; keys: [string, string][] }[] = [
  {
    where: "Everywhere",
    keys: [
      ["?", "list the keys"],
      ["/", "find a letter, a child or a screen"],
      ["g t", "Today"],
      ["g p", "Plan"],
      ["g f", "Families"],
      ["g l", "Letters"],
      ["g o", "Words"],
      ["g b", "Board"],
      ["g w", "Write"],
      ["g s", "Sheets"],
      ["g c", "Check"],
      ["g k", "Class"],
    ],
  },
  {
    where: "Plan",
    keys: [
      ["← →", "a letter, or a lesson, to the lesson before or after"],
      ["U", "undo"],
    ],
  },
  {
    where: "Running a lesson",
    keys: [
      ["→", "on"],
      ["←", "back"],
      ["Space", "write the letter again"],
      ["S", "skip this part"],
      ["L", "stay a minute longer"],
      ["M", "mirrored, for facing the class"],
      ["D", "dark or light"],
    ],
  },
  {
    where: "Letters",
    keys: [
      ["Space", "play or pause"],
      ["← →", "one move back or on"],
      ["R", "play from the start"],
    ],
  },
  {
    where: "Board",
    keys: [
      ["Space", "play or pause"],
      ["← →", "one move back or on"],
      ["R", "write it properly from the start"],
      ["M", "mirrored, for facing the class"],
      ["S", "show a slip"],
      ["X", "cross the slip out"],
      ["G", "lines on or off"],
      ["D", "dark or light"],
      ["F", "full screen"],
    ],
  },
  {
    where: "Words on the board",
    keys: [
      ["→", "one step on"],
      ["←", "one step back"],
      ["D", "dark or light"],
    ],
  },
  {
    where: "Dictation",
    keys: [
      ["Enter", "right, and on to the next word"],
      ["1 2 3 …", "this sound is to mend, or is not after all"],
      ["L", "a line through it, and written once more"],
      ["← → ↑ ↓", "from word to word and child to child"],
      ["Backspace", "not marked yet"],
      ["U", "undo"],
    ],
  },
  {
    where: "Write",
    keys: [
      ["Enter", "end this attempt"],
      ["C", "cross it out"],
      ["Esc", "the way out, for the teacher"],
    ],
  },
  {
    where: "The room",
    keys: [
      ["A", "let in all who wait at the door"],
      ["P", "pens down, or up again"],
      ["N", "hand out next"],
      ["C", "the code, large"],
    ],
  },
  {
    where: "This sheet",
    keys: [
      ["↑ ↓", "on a row’s handle: the row before or after another"],
      ["U", "undo"],
    ],
  },
  {
    where: "Check",
    keys: [
      ["← →", "attempt before or after"],
      ["1 2 3", "mark secure, near, fix"],
      ["B", "your best one"],
      ["C", "crossed out"],
      ["A", "agree with the row"],
      ["R", "replay the pen"],
      ["M", "model as written, laid on, or off"],
      ["N", "next row that waits"],
      ["O", "log what was watched"],
      ["U", "undo"],
      ["↑ ↓", "in the queue: row before or after"],
      ["A C U", "on a word: looked at, crossed out, undo"],
    ],
  },
  {
    where: "Pages that came back",
    keys: [
      ["← → ↑ ↓", "from place to place"],
      ["A", "this is right"],
      ["L", "another letter, or other words"],
      ["C E", "crossed out, empty"],
      ["D", "draw the line"],
      ["B", "the child’s best one, or not"],
      ["U", "undo"],
      ["O", "log what was watched"],
      ["N", "next page that wants you"],
      ["T", "take what is ready into the records"],
    ],
  },
  {
    where: "Class",
    keys: [
      ["← → ↑ ↓", "from letter to letter"],
      ["Enter", "the child's letter"],
    ],
  },
  {
    where: "Watch",
    keys: [
      ["↑ ↓", "child before or after"],
      ["B", "began at the bottom"],
      ["W", "went the wrong way"],
      ["L", "lifted"],
      ["O", "wrong order"],
      ["F", "fine"],
      ["U", "undo"],
    ],
  },
];
