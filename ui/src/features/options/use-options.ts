import { keepPreviousData, useQuery } from "@tanstack/react-query";
import type { Design } from "../../api/types";
import { useDesign } from "../../design/store";

/** Something worked out for the design as it is now; the answer before stays until it is there. */
export function useOptions<T>(
  name: string,
  ask: (design: Design, signal: AbortSignal) => Promise<T>,
) {
  const { id, version } = useDesign();
  return useQuery({
    queryKey: [name, id, version],
    queryFn: ({ signal }) => {
      const design = useDesign.getState().document;
      if (!design) throw new Error("no design is open");
      return ask(design, signal);
    },
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    retry: false,
  });
}
