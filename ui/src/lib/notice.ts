import { create } from "zustand";

interface Notice {
  id: number;
  text: string;
  action?: { label: string; act: () => void };
}

interface NoticeState {
  notice: Notice | null;
  notify: (text: string, action?: Notice["action"]) => void;
  close: () => void;
}

/** One line that tells what was done, with a way back. The newest replaces the last. */
export const useNotice = create<NoticeState>((set) => ({
  notice: null,
  notify: (text, action) =>
    set((state) => ({
      notice: { id: (state.notice?.id ?? 0) + 1, text, ...(action ? { action } : {}) },
    })),
  close: () => set({ notice: null }),
}));
