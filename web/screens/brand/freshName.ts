/** A name such as "Colour 3" that nothing in a list has yet. */
export function freshName(word: string, list: readonly { readonly name: string }[]): string {
  const taken = new Set(list.map((c) => c.name));
  for (let n = list.length + 1; ; n++) if (!taken.has(`${word} ${n}`)) return `${word} ${n}`;
}
