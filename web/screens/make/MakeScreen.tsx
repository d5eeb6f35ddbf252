import './make.css';
import { Button, Input, Segmented } from 'antd';
import { useState } from 'react';
import { Link, Navigate, useLocation, useParams } from 'react-router';
import { paths } from '../../../contract/paths';
import type { MakeMarkRequest } from '../../../contract/requests';
import type { BrandView } from '../../../contract/views';
import { useNewMark } from '../../data/useNewMark';
import { useBrand } from '../../data/useBrand';
import { CaptureSettings, type Choice, startChoice } from './CaptureSettings';
import { type Drawing, DrawPad, startPen } from './DrawPad';
import { TypeSetter, startType } from './TypeSetter';

/** Makes a mark where there is no file yet: drawn on a pad or typed, kept as paths; or a simulated photograph of it. */
export function MakeScreen() {
  const { how = 'draw' } = useParams();
  const { brand } = useBrand();
  if (how !== 'draw' && how !== 'type') return <Navigate to="/take-in/draw" replace />;
  if (!brand) return null;
  return <Make how={how} brand={brand} />;
}

const BLACK = '#1c1b1d';

function Make({ how, brand }: { how: 'draw' | 'type'; brand: BrandView }) {
  const { id: brandId, palette } = brand;
  const [tries, setTries] = useState<readonly Drawing[]>([[]]);
  const [chosen, setChosen] = useState(0);
  const [pen, setPen] = useState(startPen);
  const [type, setType] = useState(startType);
  const [colour, setColour] = useState(BLACK);
  const [name, setName] = useState('');
  const [kind, setKind] = useState<'logo' | 'signature' | null>(null);
  const [choice, setChoice] = useState<Choice>(startChoice);
  const { state: asked } = useLocation() as { state: { photograph?: boolean } | null };
  const [isPhotograph, setPhotograph] = useState(asked?.photograph ?? false);
  const { make, problem, isBusy } = useNewMark<MakeMarkRequest>(paths.brandMade(brandId));
  const isDrawing = how === 'draw';
  const ownKind = kind ?? (isDrawing ? 'signature' : 'logo');
  const isEmpty = isDrawing ? tries[chosen].length === 0 : type.text.trim() === '';
  const finish = () =>
    void make({
      name: name.trim() || (isDrawing ? 'Drawn signature' : type.text.trim().split('\n')[0].slice(0, 60)),
      colour,
      kind: ownKind,
      ...(isDrawing
        ? {
            drawn: {
              strokes: tries[chosen].map((s) => s.points),
              pen: { ...pen, bySpeed: !tries[chosen].some((s) => s.hasPressure) },
            },
          }
        : {}),
      ...(isDrawing
        ? {}
        : {
            typed: {
              lines: type.text.split('\n').slice(0, 8),
              typeface: type.typeface,
              sizePx: type.sizePx,
              spacing: type.spacing,
              lineHeight: type.lineHeight,
              align: type.align,
            },
          }),
      ...(isPhotograph ? { capture: choice } : {}),
    } as MakeMarkRequest);
  return (
    <div className="make">
      <header className="make-head">
        <h1>{isDrawing ? 'Draw a signature' : 'Type a mark'}</h1>
        <nav className="make-ways" aria-label="Ways to make a mark">
          <Link to="/take-in/draw" aria-current={isDrawing ? 'page' : undefined}>
            Draw
          </Link>
          <Link to="/take-in/type" aria-current={isDrawing ? undefined : 'page'}>
            Type
          </Link>
        </nav>
      </header>
      <div className="make-work">
        {isDrawing ? (
          <DrawPad
            tries={tries}
            chosen={chosen}
            pen={pen}
            colour={colour}
            onTries={setTries}
            onChoose={setChosen}
            onPen={setPen}
            onColour={setColour}
            palette={palette}
          />
        ) : (
          <TypeSetter
            brandName={brand.name}
            values={type}
            colour={colour}
            palette={palette}
            onChange={setType}
            onColour={setColour}
          />
        )}
        <aside className="side-panel" aria-label="What it becomes">
          <label className="panel-field">
            <b>Name</b>
            <Input
              value={name}
              maxLength={100}
              placeholder={isDrawing ? 'Drawn signature' : 'Named by its first line'}
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <div className="panel-field">
            <b>Kind</b>
            <Segmented
              block
              size="small"
              aria-label="Kind"
              value={ownKind}
              onChange={(v) => setKind(v as 'logo' | 'signature')}
              options={[
                { value: 'logo', label: 'logo' },
                { value: 'signature', label: 'signature' },
              ]}
            />
          </div>
          <div className="panel-field">
            <b>Becomes</b>
            <Segmented
              block
              size="small"
              aria-label="Becomes"
              value={isPhotograph ? 'photograph' : 'paths'}
              onChange={(v) => setPhotograph(v === 'photograph')}
              options={[
                { value: 'paths', label: 'vector artwork' },
                { value: 'photograph', label: 'a photograph' },
              ]}
            />
          </div>
          {isPhotograph ? (
            <CaptureSettings value={choice} onChange={setChoice} />
          ) : (
            <p className="soft small">Sharp at any size and transparent from the start.</p>
          )}
          {problem && (
            <p className="finding" role="alert">
              {problem}
            </p>
          )}
          <Button type="primary" block disabled={isEmpty || isBusy} loading={isBusy} onClick={finish}>
            {isPhotograph ? 'Simulate the photograph and take it in' : 'Make the mark'}
          </Button>
          {isEmpty && (
            <p className="soft small">
              {isDrawing ? 'Sign on the pad first. Try several times and keep the best.' : 'Type at least one letter.'}
            </p>
          )}
        </aside>
      </div>
    </div>
  );
}
