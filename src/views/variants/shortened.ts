/** Characters of a name that a sentence shows. */
const mostShown = 24;

export const shortened = (name: string): string => (name.length > mostShown ? `${name.slice(0, mostShown - 1).trimEnd()}…` : name);
