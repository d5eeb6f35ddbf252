/** What a contrast ratio means for a mark on a ground. Below 3 : 1 graphics are hard to make out (WCAG 2.2, 1.4.11). */
export function contrastWords(ratio: number | undefined): { text: string; isWeak: boolean } {
  if (ratio === undefined) return { text: '', isWeak: false };
  const isWeak = ratio < 3;
  const verdict = ratio < 1.5 ? ', lost' : isWeak ? ', weak' : '';
  return { text: `${ratio.toFixed(1)} : 1${verdict}`, isWeak };
}
