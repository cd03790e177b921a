import { create } from "zustand";

interface Notice {
  id: number;
  /** The design that was looked at when it came; "" where it was none. */
  of: string;
  text: string;
  action?: { label: string; act: () => void };
}

interface NoticeState {
  notice: Notice | null;
  notify: (text: string, action?: Notice["action"]) => void;
  close: () => void;
}

/** The design that an address shows; "" if it is none. */
export const designAt = (path: string): string => /^\/d\/([^/]+)/.exec(path)?.[1] ?? "";

/** One line that tells what was done, with a way back. The newest replaces the last. */
export const useNotice = create<NoticeState>((set) => ({
  notice: null,
  notify: (text, action) =>
    set((state) => ({
      notice: {
        id: (state.notice?.id ?? 0) + 1,
        of: designAt(window.location.pathname),
        text,
        ...(action ? { action } : {}),
      },
    })),
  close: () => set({ notice: null }),
}));
