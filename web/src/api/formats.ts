import { useQuery } from "@tanstack/react-query";

import type { FormatView, FormatsView } from "./client";
import { api, taken } from "./client";
import { keys } from "./keys";

type Subject = "statement" | "chart";

/** What figures can be taken away in, and what they can be taken in from. */
function useFormatsView(): FormatsView | undefined {
  return useQuery({
    queryKey: keys.formats(),
    queryFn: () => taken(api.GET("/api/formats")),
    staleTime: Infinity,
  }).data;
}

/** The formats that a statement, or a chart, can be taken away in. */
export function useFormats(of: Subject): FormatView[] {
  const view = useFormatsView();
  return view?.formats.filter((each) => each.of.includes(of)) ?? [];
}

/** How the names of files end that figures can be taken in from. */
export function useEndings(): string[] {
  return useFormatsView()?.sources.flatMap(({ endings }) => endings) ?? [];
}
