/** The made-up trust's colours. */
export const palette = {
  lampBlack: '#1c1b1d',
  enamelCream: '#e9ddc4',
  canalGreen: '#1f5a45',
  paddleRed: '#b5322b',
  fogBlue: '#7fa6bf',
} as const;
