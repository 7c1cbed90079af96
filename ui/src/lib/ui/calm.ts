/** Whether whoever looks has asked for little motion. */
export const calm = () => matchMedia('(prefers-reduced-motion: reduce)').matches
