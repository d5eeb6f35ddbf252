import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Input, Popconfirm, Segmented } from 'antd';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { paths } from '../../../../contract/paths';
import type { FormerOriginal, MarkNotes, MarkView } from '../../../../contract/views';
import { TwoPictures } from '../../../components/TwoPictures';
import { send, upload } from '../../../data/http';
import { markQuery } from '../../../data/queries';
import { newerState, wordsFor } from '../../../messages';

/** The file as received, and what the mark is called. */
export function OriginalPanel({ mark }: { mark: MarkView }) {
  const [name, setName] = useState(mark.name);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const change = useMutation({
    mutationFn: (body: { name?: string; kind?: string; state?: string; notes?: MarkNotes }) =>
      send<MarkView>('PATCH', paths.mark(mark.id), { basedOn: mark.details, ...body }),
    onSuccess: (stored) => {
      queries.setQueryData(markQuery(mark.id).queryKey, stored);
      void queries.invalidateQueries({ queryKey: ['marks'] });
    },
    onError: (error) => {
      const current = newerState<MarkView>(error);
      if (!current) return;
      queries.setQueryData(markQuery(mark.id).queryKey, current);
      setName(current.name);
    },
  });
  const remove = useMutation({
    mutationFn: () => send<void>('DELETE', paths.mark(mark.id)),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['marks'] });
      void navigate('/marks');
    },
  });
  const former = useQuery({
    queryKey: ['former', mark.id, mark.originalName],
    queryFn: () => send<FormerOriginal[]>('GET', paths.formerOriginals(mark.id)),
  });
  const replace = useMutation({
    mutationFn: async (file: File) => {
      const query = `?name=${encodeURIComponent(file.name)}&basedOn=${mark.revision}`;
      const path = `${paths.markOriginal(mark.id)}${query}`;
      const stored = await upload<MarkView>(path, file, new AbortController().signal);
      return { stored, before: mark.revision };
    },
    onSuccess: ({ stored }) => {
      queries.setQueryData(markQuery(mark.id).queryKey, stored);
      void queries.invalidateQueries({ queryKey: ['marks'] });
    },
  });
  const rename = () => {
    if (name.trim() && name.trim() !== mark.name) change.mutate({ name: name.trim() });
    else setName(mark.name);
  };
  const rows: [string, string][] = [
    ['File', mark.originalName],
    ['Format', mark.found.format],
    ['Size', `${mark.width} × ${mark.height} px`],
    ['Found', mark.found.sentence],
    ...mark.found.notes.map((n): [string, string] => ['', `${n[0].toUpperCase()}${n.slice(1)}.`]),
  ];
  return (
    <>
      <header>
        <h2>Original</h2>
        <span className="soft">Kept byte for byte, never altered</span>
      </header>
      <label className="panel-field">
        <b>Name</b>
        <Input
          value={name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
          onBlur={rename}
          onPressEnter={rename}
        />
      </label>
      <div className="panel-row">
        <b>Kind</b>
        <Segmented
          size="small"
          aria-label="Kind"
          options={['logo', 'signature'] as const}
          value={mark.kind}
          onChange={(kind) => change.mutate({ kind })}
        />
      </div>
      <div className="panel-row">
        <b>State</b>
        <Segmented
          size="small"
          aria-label="State"
          options={['working', 'finished'] as const}
          value={mark.state}
          onChange={(state) => change.mutate({ state })}
        />
      </div>
      <dl className="facts">
        {rows.map(([k, v], i) => (
          <div key={i}>
            <dt>{k}</dt>
            <dd>{v}</dd>
          </div>
        ))}
      </dl>
      <Notes notes={mark.notes} onChange={(notes) => change.mutate({ notes })} />
      <div className="panel-links">
        <a href={paths.markOriginal(mark.id)} download>
          Download the original
        </a>
        <a href={paths.markBundle(mark.id)} download>
          Save the mark as a bundle
        </a>
        <label className="plain replace">
          {replace.isPending ? 'Replacing…' : 'Replace by a newer file'}
          <input
            type="file"
            className="visually-hidden"
            aria-label="Newer file"
            disabled={replace.isPending}
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) replace.mutate(file);
              e.target.value = '';
            }}
          />
        </label>
        <Popconfirm
          title="Remove this mark?"
          description="It can be brought back from Marks for 30 days."
          okText="Remove"
          cancelText="Keep"
          onConfirm={() => remove.mutate()}
        >
          <button type="button" className="plain">
            Remove this mark
          </button>
        </Popconfirm>
      </div>
      {replace.isSuccess && (
        <section aria-label="What the newer file changes">
          <p className="finding note">
            <b>Replaced.</b> The recipe goes on with the newer file. Undo brings the older one back.
          </p>
          <TwoPictures
            left={{ src: paths.revisionWhole(mark.id, replace.data.before), words: 'Before' }}
            right={{ src: paths.revisionWhole(mark.id, replace.data.stored.revision), words: 'Now' }}
          />
        </section>
      )}
      {(former.data?.length ?? 0) > 0 && (
        <p className="small soft">
          Before:{' '}
          {former.data?.map((o) => (
            <a key={o.id} href={`${paths.formerOriginals(mark.id)}/${o.id}`} download>
              {o.name}
            </a>
          ))}
        </p>
      )}
      {(change.error ?? remove.error ?? replace.error) && (
        <p className="finding" role="alert">
          {wordsFor(change.error ?? remove.error ?? replace.error)}
        </p>
      )}
    </>
  );
}

/** Where it came from, who may use it, and until when: for whoever asks in a year. */
function Notes({ notes, onChange }: { notes: MarkNotes; onChange: (notes: MarkNotes) => void }) {
  const [own, setOwn] = useState(notes);
  const store = (next: MarkNotes) => {
    if (JSON.stringify(next) !== JSON.stringify(notes)) onChange(next);
  };
  const isOver = notes.until !== null && notes.until < new Date().toISOString().slice(0, 10);
  return (
    <>
      <label className="panel-field">
        <b>Where it came from</b>
        <Input
          value={own.source}
          maxLength={500}
          onChange={(e) => setOwn({ ...own, source: e.target.value })}
          onBlur={() => store({ ...own, source: own.source.trim() })}
        />
      </label>
      <label className="panel-field">
        <b>Who may use it</b>
        <Input
          value={own.permission}
          maxLength={500}
          onChange={(e) => setOwn({ ...own, permission: e.target.value })}
          onBlur={() => store({ ...own, permission: own.permission.trim() })}
        />
      </label>
      <label className="panel-row">
        <span>
          <b>Until</b>
          {isOver && <small className="warn">the permission has ended</small>}
        </span>
        <Input
          type="date"
          size="small"
          aria-label="Until"
          style={{ width: 150 }}
          value={own.until ?? ''}
          onChange={(e) => {
            const next = { ...own, until: e.target.value || null };
            setOwn(next);
            store(next);
          }}
        />
      </label>
    </>
  );
}
