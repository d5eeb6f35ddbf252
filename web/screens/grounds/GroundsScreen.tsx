import './grounds.css';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Input } from 'antd';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { paths } from '../../../contract/paths';
import type { GroundView } from '../../../contract/views';
import { ColourChoice } from '../../components/ColourChoice';
import { Failed, Waiting } from '../../components/Waiting';
import { send, upload } from '../../data/http';
import { proofGrounds } from '../../data/proofGrounds';
import { groundsQuery } from '../../data/queries';
import { useBrand } from '../../data/useBrand';
import { wordsFor } from '../../messages';

const tones: Record<GroundView['tone'], string> = { light: 'light', mid: 'mid tone', dark: 'dark' };
const groundKinds = { accept: { 'image/*': [] }, noClick: true, noKeyboard: true };

/** What marks of the chosen brand are shown on: colours and photos, some of them proofs on the bench. */
export function GroundsScreen() {
  const { brand } = useBrand();
  const { data: grounds, error } = useQuery({ ...groundsQuery(brand?.id ?? ''), enabled: brand !== null });
  const { run, problems, isBusy } = useGroundActions(brand?.id ?? '');
  const addPhotos = (files: readonly File[]) =>
    void run(
      files.map((file) => async () => {
        const path = `${paths.brandGroundPhotos(brand?.id ?? '')}?name=${encodeURIComponent(file.name)}`;
        await upload<GroundView>(path, file, new AbortController().signal);
      }),
    );
  const drop = useDropzone({ ...groundKinds, onDrop: addPhotos });
  if (error) return <Failed error={error} />;
  if (!brand || !grounds) return <Waiting what="the grounds" />;
  const proofs = proofGrounds(brand.palette, grounds);
  return (
    <div {...drop.getRootProps({ className: 'grounds' })}>
      <input {...drop.getInputProps({ 'aria-label': 'Choose photos' })} />
      <header className="grounds-head">
        <h1>Grounds</h1>
        <span className="soft">Marks are proved on six: {proofs.map((g) => g.name).join(', ')}.</span>
      </header>
      {problems.map((problem) => (
        <p key={problem} className="finding" role="alert">
          {problem}
        </p>
      ))}
      <div className="grounds-grid">
        <div className="ground-add">
          <b>Drop photos here</b>
          <span>
            or{' '}
            <button type="button" className="plain" onClick={drop.open} disabled={isBusy}>
              choose files
            </button>
          </span>
          <AddColour
            onAdd={(name, hex) => void run([() => send('POST', paths.brandGrounds(brand.id), { name, hex })])}
          />
        </div>
        {grounds.map((ground) => (
          <GroundCard
            key={`${ground.id}${ground.name}`}
            ground={ground}
            isShown={proofs.some((p) => p.id === ground.id)}
            onChange={(change) => void run([() => send('PATCH', paths.ground(ground.id), change)])}
            onRemove={() => void run([() => send('DELETE', paths.ground(ground.id))])}
          />
        ))}
      </div>
      {drop.isDragActive && (
        <div className="drop-veil" aria-hidden="true">
          <span>Drop to add grounds</span>
        </div>
      )}
    </div>
  );
}

interface CardProps {
  readonly ground: GroundView;
  /** Among the six that are shown. */
  readonly isShown: boolean;
  readonly onChange: (change: { name?: string; isProof?: boolean }) => void;
  readonly onRemove: () => void;
}

function GroundCard({ ground, isShown, onChange, onRemove }: CardProps) {
  const [name, setName] = useState(ground.name);
  const { hex, picture, isProof, tone, width, height } = ground;
  const rename = () => {
    if (name.trim() && name.trim() !== ground.name) onChange({ name: name.trim() });
    else setName(ground.name);
  };
  return (
    <article className="ground" aria-label={ground.name}>
      <div
        className="ground-picture"
        style={hex ? { background: hex } : { backgroundImage: `url(${picture})` }}
        role="img"
        aria-label={ground.name}
      />
      <input
        className="ground-name"
        aria-label={`Name of ${ground.name}`}
        value={name}
        maxLength={120}
        onChange={(e) => setName(e.target.value)}
        onBlur={rename}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
      />
      <span className="soft small">
        {tones[tone]} · {hex ? hex.toUpperCase() : `${width} × ${height} px`}
      </span>
      <div className="panel-row">
        <button
          type="button"
          className="pill"
          aria-pressed={isProof}
          title={isProof && !isShown ? 'There is room for six; this one comes when another goes' : undefined}
          onClick={() => onChange({ isProof: !isProof })}
        >
          {isProof && !isShown ? 'Proof, in waiting' : 'Proof'}
        </button>
        <button type="button" className="plain small" aria-label={`Remove ${ground.name}`} onClick={onRemove}>
          Remove
        </button>
      </div>
    </article>
  );
}

function AddColour({ onAdd }: { onAdd: (name: string, hex: string) => void }) {
  const [hex, setHex] = useState('#8a8a8a');
  const [name, setName] = useState('');
  return (
    <form
      className="ground-colour"
      onSubmit={(e) => {
        e.preventDefault();
        onAdd(name.trim() || hex.toUpperCase(), hex);
        setName('');
      }}
    >
      <ColourChoice name="Colour of the ground" hex={hex} onPreview={setHex} onChange={setHex} />
      <Input
        size="small"
        aria-label="Name of the colour"
        placeholder={hex.toUpperCase()}
        value={name}
        maxLength={100}
        onChange={(e) => setName(e.target.value)}
      />
      <button type="submit" className="plain small">
        Add
      </button>
    </form>
  );
}

function useGroundActions(brandId: string) {
  const [problems, setProblems] = useState<readonly string[]>([]);
  const [isBusy, setBusy] = useState(false);
  const queries = useQueryClient();
  const run = async (actions: readonly (() => Promise<unknown>)[]) => {
    setBusy(true);
    setProblems([]);
    // One that is refused does not disturb the others.
    for (const action of actions)
      await action().catch((error: unknown) => setProblems((all) => [...all, wordsFor(error)]));
    await queries.invalidateQueries(groundsQuery(brandId));
    setBusy(false);
  };
  return { run, problems, isBusy };
}
