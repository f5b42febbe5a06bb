/** What the studio says by codes, in English. */
export default {
  note: {
    "left-for-later":
      "“{order}” is left for later: with it there are more than {most} kinds of pieces to count at once.",
    "lots-too-large":
      "There are more than {most} lots; “{of}” is divided into fewer than it should be. Raise how many go into one lot.",
    "spares-beyond":
      "{needed} needed; even {started} started would not be enough often enough. Look at the breakage of “{of}”, or at the service level.",
    "remainder-too-small":
      "{grams} g of “{of}” lie there and are too little for any lot: with a second mixing its colour may not match.",
    "more-reserved": "Of “{of}” {reserved} are reserved and {quantity} are there.",
    "reserved-in-vain":
      "{quantity} of “{of}” are reserved for an order that does not need them; give them back, and others can have them.",
    "colour-twice": "A lot takes “{of}” from two mixings; a second mixing may not match.",
    "starts-fewer":
      "“{of}”: a lot of {started} is decided on; {usual} would be begun so that {need} come out good often enough.",
    "more-than-a-lot": "“{of}”: a lot of {started} is decided on; {most} go into one lot.",
    "more-than-needed": "“{of}”: a lot is decided on that yields {extra} more than is needed; they go to the shelf.",
    "later-than-needed": "“{of}”: a lot is moved to later than it is needed.",
  },
  proportion: {
    cone: {
      "too-low": "The cone is low for its first petals: they close over nothing.",
      "too-tall": "The cone is tall for its first petals: they will not close over it.",
    },
    wire: {
      nods: "Held level, the head nods on this wire.",
      hangs: "Held level, the head hangs on this wire.",
      bends: "Held level, the head bends this wire for good.",
    },
    former: {
      "too-small": "It is small for its former and will lie flat in it.",
      "too-large": "It is large for its former and will stand out over the rim.",
    },
    cutter: { other: "Cut so, it dries to another size than wanted." },
  },
  unplaced: {
    "no-skill": "nobody has the skill",
    "no-hours": "no stretch of working time is long enough before the horizon",
    "no-place": "no place is free before the horizon",
    stalled: "the air does not get dry enough before the horizon",
    "no-tool": "no tool is free before the horizon",
    "no-machine": "no machine is free before the horizon",
    "gate-shut": "a gate it waits for has no date before the horizon",
    "too-late": "its window closes before it can begin",
    "pin-broken": "it cannot be begun as it is pinned",
    "after-gone": "something it needs is unplaced",
    "left-out": "it is left out for what orders need",
    untried: "no place was looked for: there is more to plan than can be planned at once",
    case: {
      skill: "nobody has all of {skills}",
      load: "no machine has room for {slots} slots before the horizon",
      outlasts: "it takes longer than what is done first in it may wait",
      keeps: "it keeps for {keeps} and would lie for {lies}",
      slots: "it needs {needs} slots of {place}, which has {has} and stays full",
      gate: "{gate} has no date before the horizon",
      early: "it is pinned to {pinned}",
      away: "it is pinned to {pinned}, when its person or tools are not free",
    },
    earliest: "it can begin {earliest} at the earliest",
    after: "{why}, after {by}",
    limited: "{why}; it was looked for no further",
  },
};
