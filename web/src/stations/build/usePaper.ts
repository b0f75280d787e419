// The theme's colours as three.js needs them: read from the page's custom properties, again when the paper changes.
import { useMantineColorScheme } from "@mantine/core";
import { useMemo } from "react";

export type PaperColours = { ink: string; marker: string; joint: string; cut: string; mark: string };

export function usePaper(): PaperColours {
  const { colorScheme } = useMantineColorScheme();
  return useMemo(() => {
    const style = getComputedStyle(document.documentElement);
    const read = (name: string) => style.getPropertyValue(name).trim() || "gray";
    // named so that a change of the scheme is read again
    void colorScheme;
    return { ink: read("--edge"), marker: read("--marker"), joint: read("--joint"), cut: read("--cut"), mark: read("--mark") };
  }, [colorScheme]);
}
