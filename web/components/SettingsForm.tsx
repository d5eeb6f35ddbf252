import { type Fields, type Setting, initialValues, metaOf } from '../../core/params';
import { SettingRow } from './SettingRow';

interface Props {
  readonly fields: Fields;
  readonly values: Readonly<Record<string, unknown>>;
  readonly palette?: readonly { readonly name: string; readonly hex: string }[];
  readonly onPreview?: (values: Record<string, unknown>) => void;
  readonly onCommit: (values: Record<string, unknown>, why: string) => void;
}

/** What is set on the picture itself has no control here. */
const ON_THE_PICTURE = new Set(['points', 'point', 'rect', 'corners']);

/** A form of a definition's settings, drawn from their schemas. */
export function SettingsForm({ fields, values, palette, onPreview, onCommit }: Props) {
  const own = initialValues(fields) as Record<string, unknown>;
  const isChanged = Object.keys(own).some((name) => JSON.stringify(values[name]) !== JSON.stringify(own[name]));
  return (
    <>
      {Object.entries(fields)
        .filter(([, setting]) => !ON_THE_PICTURE.has(metaOf(setting).kind))
        .map(([name, setting]) => (
          <SettingRow
            key={name}
            setting={setting as Setting<never>}
            value={values[name]}
            palette={palette}
            onPreview={onPreview && ((value) => onPreview({ ...values, [name]: value }))}
            onCommit={(value) => onCommit({ ...values, [name]: value }, metaOf(setting).label)}
          />
        ))}
      {isChanged && (
        <button
          type="button"
          className="plain small"
          onClick={() => onCommit({ ...values, ...own }, 'All back to automatic')}
        >
          All back to automatic
        </button>
      )}
    </>
  );
}
