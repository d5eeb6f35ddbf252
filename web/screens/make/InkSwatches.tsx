/** Ink colours at hand: black, white and the brand's palette. */
export function InkSwatches({
  colour,
  palette,
  onColour,
}: {
  colour: string;
  palette: readonly { name: string; hex: string }[];
  onColour: (hex: string) => void;
}) {
  const plain = [
    { name: 'Black', hex: '#1c1b1d' },
    { name: 'White', hex: '#ffffff' },
  ];
  const inks = [...plain, ...palette.filter((c) => !plain.some((p) => p.hex === c.hex.toLowerCase()))];
  return (
    <span className="ink-swatches" role="radiogroup" aria-label="Ink colour">
      {inks.map((c) => (
        <button
          key={c.name}
          type="button"
          role="radio"
          aria-checked={c.hex === colour}
          aria-label={c.name}
          title={c.name}
          style={{ background: c.hex }}
          onClick={() => onColour(c.hex)}
        />
      ))}
    </span>
  );
}
