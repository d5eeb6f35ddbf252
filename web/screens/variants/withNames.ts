const usual: Record<string, string> = { '#000000': 'black', '#ffffff': 'white' };

/** Words with colours called by the palette's names, and by their usual ones. */
export function withNames(text: string, palette: readonly { readonly name: string; readonly hex: string }[]): string {
  return text.replace(/#[0-9a-f]{6}\b/gi, (hex) => {
    const own = palette.find((c) => c.hex.toLowerCase() === hex.toLowerCase());
    return own?.name.toLowerCase() ?? usual[hex.toLowerCase()] ?? hex.toUpperCase();
  });
}
