/** Every name of a tree of words with what it says: `unplaced.no-skill`. */
export function* flat(words: object, above = ""): Generator<[string, string]> {
  for (const [name, says] of Object.entries(words))
    if (typeof says === "string") yield [above + name, says];
    else yield* flat(says as object, `${above}${name}.`);
}
