import { Select } from 'antd';
import type { ReactNode } from 'react';
import { type Setting, initialValues, metaOf } from '../../core/params';
import type { Part } from '../../core/recipe/recipe';
import type { Registry, WithParams } from '../../core/registry';
import { SettingControl } from './SettingRow';

interface Props {
  readonly registry: Registry<WithParams>;
  /** What is chosen here, for who hears rather than sees it, such as "Fill". */
  readonly name: string;
  readonly part: Part;
  readonly palette?: readonly { readonly name: string; readonly hex: string }[];
  /** Settings that this mark has no use for. */
  readonly hidden?: readonly string[];
  /** After the choices, such as a way to take the part off. */
  readonly children?: ReactNode;
  readonly onChange: (part: Part, isFinal: boolean) => void;
}

/** A part read as words of a sentence: which one, and its settings, each edited where it stands. */
export function PartSentence({ registry, name, part, palette, hidden = [], children, onChange }: Props) {
  const { params } = registry.get(part.id);
  const set = (setting: string, value: unknown, isFinal: boolean) =>
    onChange({ id: part.id, params: { ...part.params, [setting]: value } }, isFinal);
  return (
    <>
      <Select
        size="small"
        variant="borderless"
        aria-label={name}
        className="sentence-part"
        popupMatchSelectWidth={false}
        value={part.id}
        options={registry.all.map((d) => ({ value: d.id, label: d.title.toLowerCase() }))}
        onChange={(id) => onChange({ id, params: initialValues(registry.get(id).params) }, true)}
      />
      {Object.entries(params).flatMap(([setting, schema]) =>
        hidden.includes(setting) ? (
          []
        ) : (
          <span key={setting} className="sentence-setting">
            <span>{wordsOf(schema)}</span>
            <SettingControl
              isInline
              meta={metaOf(schema)}
              value={part.params[setting]}
              palette={palette}
              onPreview={(value) => set(setting, value, false)}
              onCommit={(value) => set(setting, value, true)}
            />
          </span>
        ),
      )}
      {children}
    </>
  );
}

const wordsOf = (schema: Setting<unknown>) => {
  const { kind, label } = metaOf(schema);
  return kind === 'colour' ? '' : label.toLowerCase();
};
