// The look, set once: a drawing office on warm paper. Colours live here and in theme.css, nowhere else.
import { createTheme, type MantineColorsTuple } from "@mantine/core";

const ink: MantineColorsTuple = [
  "#eef1f3",
  "#d6dce1",
  "#b3bec7",
  "#8c9ba8",
  "#677a8a",
  "#4c6071",
  "#3a4d5e",
  "#2c3d4c",
  "#1f2b37",
  "#141d26",
];
const vermilion: MantineColorsTuple = [
  "#fdece7",
  "#f8d3c9",
  "#f0a896",
  "#e77e63",
  "#dc5636",
  "#c8321e",
  "#ad2917",
  "#8c2011",
  "#6a170b",
  "#470e06",
];
const violet: MantineColorsTuple = [
  "#f0ecf8",
  "#dcd3ee",
  "#bcabdd",
  "#9c84cc",
  "#7f61bb",
  "#6647a6",
  "#533889",
  "#412b6d",
  "#2f1f50",
  "#1d1333",
];
const leaf: MantineColorsTuple = [
  "#e6f3ec",
  "#c4e1d2",
  "#93c6ab",
  "#60aa84",
  "#358d61",
  "#14744a",
  "#0b5f3b",
  "#074a2e",
  "#043520",
  "#022013",
];

// the kit's greys on dark paper, from text to the deepest ground
const dark: MantineColorsTuple = [
  "#ece7da",
  "#cfd3d6",
  "#b4b9be",
  "#939aa1",
  "#38434e",
  "#2c353f",
  "#222a33",
  "#1a2027",
  "#141a20",
  "#0e1318",
];

export const theme = createTheme({
  primaryColor: "ink",
  primaryShade: { light: 8, dark: 2 },
  colors: { ink, vermilion, violet, leaf, dark },
  fontFamily: "'Archivo Variable', sans-serif",
  fontFamilyMonospace: "'Spline Sans Mono Variable', monospace",
  headings: { fontFamily: "'Archivo Variable', sans-serif", fontWeight: "650" },
  defaultRadius: 2,
  // who asked the system for less motion gets none
  respectReducedMotion: true,
  fontSizes: { xs: "12px", sm: "13.5px", md: "15px", lg: "17px", xl: "20px" },
  components: {
    Button: { defaultProps: { size: "xs", variant: "default" } },
    ActionIcon: { defaultProps: { variant: "subtle", size: "md", color: "ink" } },
    TextInput: { defaultProps: { size: "xs" } },
    Textarea: { defaultProps: { size: "xs" } },
    Select: { defaultProps: { size: "xs", allowDeselect: false, comboboxProps: { shadow: "md" } } },
    NumberInput: { defaultProps: { size: "xs" } },
    Checkbox: { defaultProps: { size: "xs" } },
    SegmentedControl: { defaultProps: { size: "xs" } },
    Tooltip: { defaultProps: { openDelay: 350, withArrow: true } },
    Modal: {
      defaultProps: { centered: true, closeButtonProps: { "aria-label": "Close" }, overlayProps: { backgroundOpacity: 0.35 } },
    },
    // a long list scrolls, and fits above or below what opens it
    Menu: {
      defaultProps: { shadow: "md", position: "bottom-end" },
      styles: { dropdown: { maxHeight: "calc(50vh - 40px)", overflowY: "auto" } },
    },
  },
});
