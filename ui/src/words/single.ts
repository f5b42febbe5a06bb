/** Codes that are their own English words. */
const codes = [
  // states, and how things are joined, set, built, cut and hooked
  ..."soft firm stiff dry any over-gaps level alternating taped glued wet slotted threaded iced".split(" "),
  ..."inside-out outside-in cut ball rope weighed thickness open closed tape-wound straight".split(" "),
  // forms that are drawn
  ..."petal daisy blossom star leaf cone centre bead bud brush calyx disc former wired layered filler".split(" "),
  ..."cluster sprig frond trail spray paste dust icing glue stamens thread pearl foam".split(" "),
  "round petal",
  "pointed petal",
  "notched petal",
  "heart petal",
  "frilled petal",
  "notched ring",
  "long leaf",
  "lobed leaf",
  // how things leave, are kept and found; what lines of a table are; the stations' groups
  ..."collected delivered posted cancelled board wrapped cold good second broken new changed same wrong".split(" "),
  ..."promise make keep flower part done planned started paused open quote pieces lead maker sensor reader calendar".split(
    " ",
  ),
  "make ready",
  "Pieces and mixes",
  "Materials",
  "To buy",
  "Change of mind",
  // what the journal tells of, and how stock moves
  ..."gone order lot lying stock purchase plan person settings refusal timer air sensor clock draft page".split(" "),
  ..."revision colourway material place supplier name equipment bought mixed used spoilt counted reserved".split(" "),
  ..."released corrected".split(" "),
  "drying class",
  "usual air",
  ..."decided divided pin".split(" "),
  // what is found by its name
  "station",
  "to do",
  // glyphs of work
  ..."mix wire shape paint assemble pack cut steam wait hand-over dusting".split(" "),
];

export default Object.fromEntries(codes.map((code) => [code, code.replaceAll("-", " ")])) as Record<string, string>;
