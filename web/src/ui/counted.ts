/** So many of a thing, in words that fit the number: `1 cable`, `2 cables`. */
export const counted = (many: number, one: string): string => `${many} ${many === 1 ? one : `${one}s`}`;
