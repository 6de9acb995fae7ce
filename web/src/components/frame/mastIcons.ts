/** Strokes of the mast's signs, in a box of 24. */
export const mastIcons = {
  arrivals: '<path d="M3 17c2 1.6 4 1.6 6 0s4-1.6 6 0 4 1.6 6 0"/><path d="M12 3v9m-4-4 4 4 4-4"/>',
  assets:
    '<rect x="3" y="3" width="7.5" height="7.5" rx="1"/><rect x="13.5" y="3" width="7.5" ' +
    'height="7.5" rx="1"/><rect x="3" y="13.5" width="7.5" height="7.5" rx="1"/><path d="M13.5 ' +
    '17.2h7.500M17.2 13.5V21"/>',
  pairing:
    '<circle cx="5" cy="6" r="2.2"/><circle cx="5" cy="18" r="2.2"/><circle cx="19" cy="6" ' +
    'r="2.2"/><circle cx="19" cy="18" r="2.2"/><path d="M7.2 6c6 0 4 12 9.600 12M7.2 18c6 0 4-12 ' +
    '9.600-12"/>',
  rulebook: '<path d="M4 4h13a3 3 0 0 1 3 3v13H7a3 3 0 0 1-3-3z"/><path d="M8 9h8M8 13h5"/>',
  ledger: '<path d="M4 20V4M4 20h16"/><path d="M8 16v-4M12 16V8M16 16v-6"/>',
  dispatch: '<path d="M3 14h18l-2.600 5H6z"/><path d="M12 14V3l6 8h-6"/>',
  find:
    '<path d="M3 14.500 13 8l2.200 4L5 18z"/><path d="m13 8 5-3.500 3.200 5.500-6 2"/><path ' +
    'd="m9.500 15.500-2 5.500M9.500 15.500l3.500 5.500"/>',
  day: '<circle cx="12" cy="12" r="4"/><path d="M12 2v3M12 19v3M2 12h3M19 12h3"/>',
  help: '<path d="M9 9a3 3 0 1 1 4.400 2.600c-.9.5-1.400 1.200-1.400 2.400"/><path d="M12 18v.1"/>',
} as const
