/** The TypeScript file that core has of the kernels. */
export function moduleText(): Promise<string>
