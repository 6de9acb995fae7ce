/** The TypeScript file that core has of the kernels for meshes. */
export function meshModuleText(): Promise<string>
