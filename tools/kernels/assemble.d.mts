/** The TypeScript file that core has of the kernel. */
export function moduleText(): Promise<string>
