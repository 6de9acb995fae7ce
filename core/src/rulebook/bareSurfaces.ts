/** Extensions of surfaces that light goes through, or that take none: they need no base colour or normal texture. */
export const bareSurfaces: readonly string[] = ['KHR_materials_transmission', 'KHR_materials_unlit']
