// The core's forms: every kind of record with its fields and words; the same for all designs, asked for once.
import { useQuery } from "@tanstack/react-query";
import { api, got } from "../api/client";
import type { Form, FormatOut, Forms } from "../api/types";

/** Those of which there is one are missing for a moment, until the forms have come. */
type Come = Pick<Forms, "joints" | "features" | "flanges" | "shapes" | "bends" | "stocks" | "copies" | "outlines"> &
  Partial<Forms>;
const NONE: Come = { joints: [], features: [], flanges: [], shapes: [], bends: [], stocks: [], copies: [], outlines: [] };

export function useForms(): Come {
  const found = useQuery({
    queryKey: ["forms"],
    queryFn: () => got(api.GET("/api/forms")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return found.data ?? NONE;
}

/** The kinds of files of a drawing or of a solid. */
export function useFormats(of: FormatOut["of"]): FormatOut[] {
  const found = useQuery({
    queryKey: ["formats"],
    queryFn: () => got(api.GET("/api/formats")),
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (found.data ?? []).filter((f) => f.of === of);
}

/** The form of a kind; undefined for a moment, until the forms have come. */
export function formOf<F extends Form>(forms: F[], kind: string): F | undefined {
  return forms.find((f) => f.kind === kind);
}

const wordIn = (forms: Form[]) => (kind: string) => formOf(forms, kind)?.title ?? kind.replaceAll("_", " ");

/** Kinds of joints in words. */
export function useJointWord(): (kind: string) => string {
  return wordIn(useForms().joints);
}

/** Kinds of features in words. */
export function useFeatureWord(): (kind: string) => string {
  return wordIn(useForms().features);
}
