/** What is so in every format that stores one level of plain texels and says nothing of what it carries. */
export const plainTexels = { mips: 1, blockFormat: null, statedRole: null, decodes: true } as const
