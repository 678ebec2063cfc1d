import type { GlobalThemeOverrides } from "naive-ui";

/** Colours of what is seen in a volume, as in the chips and ribbons. */
export const tints: Record<string, string> = {
  smoke: "#d9d3c6",
  heat: "#ff7d5e",
  fuel: "#e58fb6",
  speed: "#6fb6ff",
  pressure: "#a790ff",
  liquid: "#41d0c3",
  fog: "#9db3c6",
  burning: "#ffb066",
  age: "#c9b8ff",
  light: "#ffd277",
};

export const theme: GlobalThemeOverrides = {
  common: {
    primaryColor: "#bdd45e",
    primaryColorHover: "#cbe070",
    primaryColorPressed: "#a9bf4c",
    primaryColorSuppl: "#bdd45e",
    bodyColor: "#0c0f11",
    cardColor: "#13171a",
    modalColor: "#13171a",
    popoverColor: "#1a1f23",
    inputColor: "#1a1f23",
    borderColor: "#2c343a",
    dividerColor: "#2c343a",
    textColorBase: "#ebe5d8",
    textColor1: "#ebe5d8",
    textColor2: "#ebe5d8",
    textColor3: "#a3a298",
    placeholderColor: "#83877f",
    errorColor: "#ff8f86",
    warningColor: "#ffd277",
    fontFamily: "'Inter Variable', sans-serif",
    fontFamilyMono: "'JetBrains Mono', monospace",
    fontSize: "12.5px",
    fontSizeSmall: "12.5px",
    fontSizeMedium: "12.5px",
    borderRadius: "8px",
  },
  Button: {
    borderRadiusSmall: "999px",
    borderRadiusMedium: "999px",
    textColorPrimary: "#161a0c",
    textColorHoverPrimary: "#161a0c",
    textColorPressedPrimary: "#161a0c",
    textColorFocusPrimary: "#161a0c",
    fontWeight: "600",
  },
  Tooltip: { color: "#252c31", textColor: "#ebe5d8" },
};
