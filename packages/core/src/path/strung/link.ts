/** Numbers that a strung line has: which places it connects, and how clear it is of everything, metres, where that was looked for. */
export const LINK = { from: 'from', to: 'to', clear: 'clear' } as const;
