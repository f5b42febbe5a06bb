import { aliases, mdi } from "vuetify/iconsets/mdi-svg";
import { createVuetify } from "vuetify";

/** Behaviour is Vuetify's, the look is ours: a light bench, ink and materials. */
export const vuetify = createVuetify({
  icons: { defaultSet: "mdi", aliases, sets: { mdi } },
  theme: {
    defaultTheme: "morning",
    themes: {
      morning: {
        dark: false,
        colors: {
          background: "#f6f3ee",
          surface: "#fdfcf9",
          primary: "#35202f",
          secondary: "#566f52",
          error: "#a32740",
        },
      },
      evening: {
        dark: true,
        colors: {
          background: "#1d161b",
          surface: "#271e25",
          primary: "#f3ebe4",
          secondary: "#a8c79d",
          error: "#ff9dab",
        },
      },
    },
  },
  defaults: {
    VBtn: { variant: "flat", ripple: false },
    VTextField: { variant: "outlined", density: "compact", color: "primary", hideDetails: "auto" },
    VSelect: { variant: "outlined", density: "compact", color: "primary", hideDetails: "auto" },
  },
});
