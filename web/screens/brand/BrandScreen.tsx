import './brand.css';
import { useQueryClient } from '@tanstack/react-query';
import { Button, Input } from 'antd';
import { useState } from 'react';
import { paths } from '../../../contract/paths';
import type { BrandChanged, BrandView, PaletteColour } from '../../../contract/views';
import { nameByPattern, nameTokens } from '../../../core/recipe/fileNames';
import { describeVariant } from '../../../core/recipe/runRecipe';
import { ColourChoice } from '../../components/ColourChoice';
import { TakeBundle } from '../../components/TakeBundle';
import { Waiting } from '../../components/Waiting';
import { copyText } from '../../data/copyText';
import { send } from '../../data/http';
import { brandsQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';
import { BrandGradients } from './BrandGradients';
import { BrandLines } from './BrandLines';
import { NameField } from './NameField';
import { freshName } from './freshName';
import { withNames } from '../variants/withNames';

const MOST_COLOURS = 40;
const EXAMPLE = {
  mark: 'Lock house',
  variant: 'Reversed',
  purpose: 'Web',
  width: 1200,
  height: 800,
  ppi: 300,
  date: '2026-03-31',
  version: 4,
};

/** The chosen brand: its colours, how its files are named, and what a new mark starts with. */
export function BrandScreen() {
  const { brand, isLoading } = useBrand();
  const [told, setTold] = useState<Told | null>(null);
  if (isLoading || !brand) return <Waiting what="the brand" />;
  // Another brand, or a newer state of it, is another form.
  return (
    <BrandForm
      key={`${brand.id}-${brand.edition}`}
      brand={brand}
      told={told?.brandId === brand.id ? told : null}
      onTold={setTold}
    />
  );
}

/** What the last change did, and the palette before it: the form itself starts anew with every edition. */
interface Told {
  readonly brandId: string;
  readonly words: string;
  readonly back: Pick<BrandView, 'palette' | 'gradients'>;
}

interface FormProps {
  readonly brand: BrandView;
  readonly told: Told | null;
  readonly onTold: (told: Told | null) => void;
}

function BrandForm({ brand, told, onTold }: FormProps) {
  const { change, problem, isBusy } = useChange(brand, onTold);
  return (
    <div className="brand-page">
      <header className="brand-head">
        <h1>{brand.name}</h1>
        <span className="soft">
          {brand.markCount} {brand.markCount === 1 ? 'mark' : 'marks'}
        </span>
        <span className="brand-bundles">
          <a href={paths.brandBundle(brand.id)} download>
            Save all as a bundle
          </a>
          <TakeBundle />
        </span>
      </header>
      {problem && (
        <p className="finding" role="alert">
          {problem}
        </p>
      )}
      <div className="brand-columns">
        <section aria-label="Palette">
          <h2>Palette</h2>
          <p className="soft small">A colour that changes changes in every variant that uses it.</p>
          {told && (
            <p className="brand-told" role="status">
              {told.words}{' '}
              <button type="button" className="plain" disabled={isBusy} onClick={() => void change(told.back, true)}>
                Undo
              </button>
            </p>
          )}
          <ul className="brand-colours">
            {brand.palette.map((colour, k) => (
              <ColourRow
                key={`${k}-${colour.name}-${colour.hex}`}
                colour={colour}
                taken={brand.palette.filter((_, n) => n !== k).map((c) => c.name)}
                onChange={(next) => void change({ palette: brand.palette.map((c, n) => (n === k ? next : c)) }, true)}
                onRemove={() => void change({ palette: brand.palette.filter((_, n) => n !== k) }, true)}
              />
            ))}
          </ul>
          {brand.palette.length < MOST_COLOURS && (
            <Button
              disabled={isBusy}
              onClick={() =>
                void change(
                  { palette: [...brand.palette, { name: freshName('Colour', brand.palette), hex: '#808080' }] },
                  true,
                )
              }
            >
              Add a colour
            </Button>
          )}
          <BrandGradients
            gradients={brand.gradients}
            palette={brand.palette}
            onChange={(gradients) => void change({ gradients }, true)}
          />
        </section>
        <section aria-label="New marks">
          <h2>New marks</h2>
          <PatternField brand={brand} onChange={(pattern) => void change({ pattern }, false)} />
          <h3>Start with</h3>
          {brand.startSet ? (
            <>
              <ul className="brand-set">
                {brand.startSet.map((v) => (
                  <li key={v.id}>
                    <b>{v.name}</b> <span className="soft">{withNames(describeVariant(v), brand.palette)}</span>
                  </li>
                ))}
              </ul>
              <button type="button" className="plain" onClick={() => void change({ startSet: null }, false)}>
                Back to the usual variants
              </button>
            </>
          ) : (
            <p className="soft small">
              The usual variants: colour, black and reversed. A mark’s own set becomes the start on its Variants stage,
              by “Start new marks with these”.
            </p>
          )}
          <BrandLines
            brand={brand}
            onStandard={(standardLines) => void change({ standardLines }, false)}
            onPurposes={(ownPurposes) => void change({ ownPurposes }, false)}
          />
        </section>
      </div>
    </div>
  );
}

function PatternField({ brand, onChange }: { brand: BrandView; onChange: (pattern: string) => void }) {
  const [pattern, setPattern] = useState(brand.pattern);
  const example = exampleOf(pattern, brand.name);
  const commit = () => {
    if (example.isGood && pattern.trim() !== brand.pattern) onChange(pattern.trim());
  };
  return (
    <label className="panel-field">
      <b>Names of files</b>
      <Input
        value={pattern}
        maxLength={120}
        status={example.isGood ? '' : 'error'}
        onChange={(e) => setPattern(e.target.value)}
        onBlur={commit}
        onPressEnter={commit}
      />
      <span className={example.isGood ? 'soft small' : 'warn small'}>{example.words}</span>
      <span className="soft small">{nameTokens.map((t) => `{${t}}`).join(' ')}</span>
    </label>
  );
}

function exampleOf(pattern: string, brand: string): { isGood: boolean; words: string } {
  try {
    return { isGood: true, words: `${nameByPattern(pattern, { ...EXAMPLE, brand })}.png` };
  } catch (error) {
    return { isGood: false, words: wordsFor(error) };
  }
}

interface RowProps {
  readonly colour: PaletteColour;
  readonly taken: readonly string[];
  readonly onChange: (colour: PaletteColour) => void;
  readonly onRemove: () => void;
}

function ColourRow({ colour, taken, onChange, onRemove }: RowProps) {
  return (
    <li>
      <ColourChoice
        name={`Colour of ${colour.name}`}
        hex={colour.hex}
        onChange={(hex) => hex !== colour.hex && onChange({ ...colour, hex })}
      >
        <button
          type="button"
          className="brand-swatch"
          style={{ background: colour.hex }}
          aria-label={`Colour of ${colour.name}, ${colour.hex.toUpperCase()}`}
        />
      </ColourChoice>
      <NameField
        label={`Name of ${colour.hex.toUpperCase()}`}
        value={colour.name}
        // Variants follow a colour by its name.
        taken={taken}
        onRename={(name) => onChange({ ...colour, name })}
      />
      <button
        type="button"
        className="plain hex"
        title="Copy"
        aria-label={`Copy ${colour.hex.toUpperCase()}`}
        onClick={() => void copyText(colour.hex)}
      >
        {colour.hex.toUpperCase()}
      </button>
      <button type="button" className="plain small" aria-label={`Remove ${colour.name}`} onClick={onRemove}>
        Remove
      </button>
    </li>
  );
}

type Change = Partial<
  Pick<BrandView, 'palette' | 'gradients' | 'pattern' | 'startSet' | 'standardLines' | 'ownPurposes'>
>;

function useChange(brand: BrandView, onTold: FormProps['onTold']) {
  const [problem, setProblem] = useState<string | null>(null);
  const [isBusy, setBusy] = useState(false);
  const queries = useQueryClient();
  const change = async (next: Change, canGoBack: boolean) => {
    setBusy(true);
    setProblem(null);
    try {
      const body = { basedOn: brand.edition, ...next };
      const { marks, variants, outdated } = await send<BrandChanged>('PATCH', paths.brand(brand.id), body);
      const { palette, gradients } = brand;
      const words = changeWords({ marks, variants, outdated });
      onTold(canGoBack ? { brandId: brand.id, words, back: { palette, gradients } } : null);
      void queries.invalidateQueries({ queryKey: ['marks'] });
      void queries.invalidateQueries({ queryKey: ['mark'] });
    } catch (error) {
      setProblem(wordsFor(error));
    }
    setBusy(false);
    await queries.invalidateQueries(brandsQuery());
  };
  return { change, problem, isBusy };
}

const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`;

/** What a changed palette changed, in words. */
export function changeWords({
  marks,
  variants,
  outdated,
}: Pick<BrandChanged, 'marks' | 'variants' | 'outdated'>): string {
  if (variants === 0) return 'Changed. No variant used it.';
  const late = outdated > 0 ? ` Delivered files of ${count(outdated, 'mark')} are out of date.` : '';
  return `Changed, and with it ${count(variants, 'variant')} of ${count(marks, 'mark')}.${late}`;
}
