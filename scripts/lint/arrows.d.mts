/** Which of our folders each may import from beside itself. */
export const mayImport: Readonly<Record<string, readonly string[]>>;
