/** Every key that does something, by where it does. */
export const KEY_SHEET = [
  [
    "Everywhere",
    [
      ["/", "find a dough, a bake, an ingredient, what lies in the cold"],
      ["?", "this sheet"],
      ["Tab", "to the next field or press; shift, the one before"],
      ["Esc", "close what is open"],
    ],
  ],
  [
    "In a figure or a time",
    [
      ["↑ ↓", "a step more or less"],
      ["Enter", "keep it"],
      ["← →", "along a ruler, a step at a time"],
    ],
  ],
  [
    "Dough",
    [
      ["↑ ↓", "the line up or down, into a part and out of it"],
      ["Enter", "read the line that was typed, and go on to the next"],
      ["Ctrl Z", "take the last change back; shift, do it again"],
    ],
  ],
  [
    "Tray, where pieces are moved",
    [
      ["← → ↑ ↓", "the piece a little; shift, ten times as far"],
      ["Delete", "take it off the sheet"],
    ],
  ],
  [
    "Bake",
    [
      ["Space, 1", "done"],
      ["2", "not yet: a little longer"],
      ["3", "leave this out"],
      ["5", "the oven is slow"],
      ["6 7 8", "the dough is too soft, right, too hard"],
      ["0", "take the last one back"],
      ["↑ ↓", "look at another job; Esc goes back to what is due"],
      ["Enter", "weighed: the next one, while you weigh along"],
    ],
  ],
] as const;
