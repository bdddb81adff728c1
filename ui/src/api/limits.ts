/** The least and the most of what is counted, as the API has it; written by `make api`. */
export const LIMITS = {
  KitchenSetting: {
    sheets: [1, 12],
    shelves: [1, 4],
  },
  OwnPan: {
    number: [1, 12],
  },
  OwnSheet: {
    number: [1, 12],
  },
  Planning: {
    bowls: [1, 60],
    clear_min: [0, 120],
    freezer_places: [0, 60],
    fridge_places: [1, 30],
    load_min: [1, 1440],
    mixers: [1, 10],
    out_min: [1, 1440],
    rack_min: [1, 1440],
    racks: [1, 100],
    raw_wait_min: [5, 120],
    sheet_ready_min: [0, 14400],
    tolerance_c: [0, 50],
    turn_min: [1, 1440],
    wash_min: [0, 120],
  },
  SecondOven: {
    shelves: [1, 4],
  },
  Wish: {
    sheets: [1, 12],
    shelves: [1, 4],
  },
} satisfies Record<string, Record<string, [number, number]>>;

/** What is taken where nothing is said, as the API has it. */
export const USUAL = {
  ChillBody: { start_c: 23 },
};
