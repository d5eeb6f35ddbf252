import { useState } from 'react';

/** Width of a bank card, mm. @see ISO/IEC 7810, ID-1 */
export const CARD_MM = 85.6;
const KEY = 'tassel-card-width';
/** Style sheets take an inch for 96 px. */
const USUAL_PX = (CARD_MM / 25.4) * 96;

/** How many pixels of this screen a millimetre is, once somebody has held a card against it. */
export function useScreenScale(): { pxPerMm: number; setCardWidth: (px: number) => void } {
  const [width, setWidth] = useState(() => Number(localStorage.getItem(KEY)) || USUAL_PX);
  return {
    pxPerMm: width / CARD_MM,
    setCardWidth: (px) => {
      localStorage.setItem(KEY, String(px));
      setWidth(px);
    },
  };
}
