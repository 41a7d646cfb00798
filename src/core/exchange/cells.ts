/** Spreadsheets run cells that begin like a formula: such a text gets an apostrophe in front. */
export const guarded = (text: string): string => (/^[=+\-@\t]/.test(text) ? `'${text}` : text);
export const unguarded = (text: string): string => (/^'[=+\-@\t]/.test(text) ? text.slice(1) : text);
