import { create } from "zustand";
import { persist } from "zustand/middleware";

interface HaveState {
  /** Ids of the parts of the shelf that are there already. */
  have: readonly string[];
  toggle: (id: string) => void;
}

/** Which parts one has: kept in this browser, beside the shelf. */
export const useHave = create<HaveState>()(
  persist(
    (set) => ({
      have: [],
      toggle: (id) =>
        set(({ have }) => ({
          have: have.includes(id) ? have.filter((one) => one !== id) : [...have, id],
        })),
    }),
    { name: "gravel-jar-have" },
  ),
);
