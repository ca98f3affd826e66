/** A length from metres, to three digits, for texts that no display unit reaches: "24.9 mm". */
export const millimetres = (metres: number): string => `${+(1000 * metres).toPrecision(3)} mm`;
