/** Ids of rules that were given another name, old → new; stored rulebooks and findings may have the old one. */
export const renamedRules: Readonly<Record<string, string>> = {
  'scale/unapplied-transform': 'scale/unbaked-transform',
}

/** Ids of remedies that were given another name, old → new; stored recipes may have the old one. */
export const renamedRemedies: Readonly<Record<string, string>> = {
  'uvs/swap': 'uvs/exchange',
  'colour/mark-normal': 'colour/set-role',
}
