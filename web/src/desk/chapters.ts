/** The chapters of the work. Their numbers are their keys, and leave room for those to come. */
export const chapters = [
  {
    number: 1,
    name: "props",
    label: "Props",
    empty: "Objects that give off smoke, stand in its way or are just seen go here.",
  },
  {
    number: 2,
    name: "sources",
    label: "Sources",
    empty:
      "A source feeds smoke and heat from a prop into the chamber; an inflow pours liquid. Add one and choose its prop.",
  },
  { number: 3, name: "chamber", label: "Chamber", empty: "" },
  {
    number: 4,
    name: "forces",
    label: "Forces",
    empty:
      "Wind, swirl, drag and turbulence of their own place and time go here, and kicks that throw liquid up.",
  },
  {
    number: 5,
    name: "sculpt",
    label: "Sculpt",
    empty:
      "Volumes built by hand go here, without a run: add a sculpt, choose the prop that it begins with, then add steps.",
  },
  { number: 6, name: "light", label: "Light", empty: "" },
  { number: 7, name: "camera", label: "Camera", empty: "" },
  {
    number: 8,
    name: "finish",
    label: "Finish",
    empty:
      "Layers of the finished picture go here, one over the other: the shot's own picture, plates, colours, and changes of all that lies below.",
  },
  { number: 9, name: "export", label: "Export", empty: "" },
] as const;
