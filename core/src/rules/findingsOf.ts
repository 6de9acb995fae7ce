/**
 * Findings about some things, most of which give none: `look` says what there is to say of one, or null.
 * `flatMap` makes a list for each thing, and the engine cannot compile it together with what it calls.
 */
export function findingsOf<Thing, Found>(
  things: readonly Thing[],
  look: (thing: Thing) => Found | null,
): Found[] {
  const found: Found[] = []
  for (let i = 0; i < things.length; i++) {
    const one = look(things[i]!)
    if (one !== null) found.push(one)
  }
  return found
}
