import { ColorPicker, Input } from 'antd';
import { type ReactNode, useState } from 'react';
import { readColour } from '../../core/colour/readColour';
import { copyText } from '../data/copyText';

type Palette = readonly { readonly name: string; readonly hex: string }[];

interface Props {
  /** What is coloured, for who hears rather than sees it. */
  readonly name: string;
  readonly hex: string;
  readonly palette?: Palette;
  /** More colours to choose from, under a heading of their own. */
  readonly more?: { readonly label: string; readonly colours: readonly string[] };
  /** What opens the choice; a swatch with the colour's number otherwise. */
  readonly children?: ReactNode;
  readonly onPreview?: (hex: string) => void;
  readonly onChange: (hex: string) => void;
}

/** A colour: chosen on a field or from the palette, typed in any notation, taken from the screen, or copied. */
export function ColourChoice({ name, hex, palette = [], more, children, onPreview, onChange }: Props) {
  const presets = [
    { label: 'Palette', colors: ['#000000', '#ffffff', ...palette.map((c) => c.hex)] },
    ...(more && more.colours.length > 0 ? [{ label: more.label, colors: [...more.colours] }] : []),
  ];
  return (
    <ColorPicker
      size="small"
      value={hex}
      disabledAlpha
      presets={presets}
      panelRender={(_, { components: { Picker, Presets } }) => (
        <div className="colour-choice">
          <Picker />
          <Typed key={hex} hex={hex} onChange={onChange} />
          <Presets />
        </div>
      )}
      onChange={(c) => onPreview?.(c.toHexString().slice(0, 7))}
      onChangeComplete={(c) => onChange(c.toHexString().slice(0, 7))}
    >
      {children ?? (
        <button type="button" className="swatch pressable" aria-label={`${name} ${hex.toUpperCase()}`}>
          <i style={{ background: hex }} />
          <span className="hex">{hex.toUpperCase()}</span>
        </button>
      )}
    </ColorPicker>
  );
}

/** Some browsers let a person take a colour from anywhere on the screen. */
interface ScreenPicker {
  open(): Promise<{ sRGBHex: string }>;
}
const screenPicker = () => (window as { EyeDropper?: new () => ScreenPicker }).EyeDropper;

function Typed({ hex, onChange }: { hex: string; onChange: (hex: string) => void }) {
  const [text, setText] = useState(hex.toUpperCase());
  const read = readColour(text);
  const commit = () => read && read !== hex && onChange(read);
  const Picker = screenPicker();
  return (
    <div className="colour-typed">
      <Input
        size="small"
        aria-label="Colour as text"
        title="Hex, rgb(), hsl(), oklch() or a name such as teal"
        value={text}
        status={read ? '' : 'error'}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onPressEnter={commit}
      />
      {Picker && (
        <button
          type="button"
          className="plain small"
          onClick={() =>
            void new Picker().open().then(
              ({ sRGBHex }) => onChange(readColour(sRGBHex) ?? hex),
              () => {}, // left without taking any
            )
          }
        >
          From the picture
        </button>
      )}
      <button type="button" className="plain small" onClick={() => void copyText(hex)}>
        Copy
      </button>
    </div>
  );
}
