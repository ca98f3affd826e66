/** Most points of all lines of a piece: what is made along them would fill the memory many times over. */
export const MAX_POINTS = 4_000_000;
