import { Input } from 'antd';
import { useState } from 'react';

interface Props {
  readonly label: string;
  readonly value: string;
  /** Names that others have: no two are alike. */
  readonly taken: readonly string[];
  readonly isSmall?: boolean;
  readonly onRename: (name: string) => void;
}

/** The name of something of a brand, stored once it is left; an empty or taken one goes back. */
export function NameField({ label, value, taken, isSmall = false, onRename }: Props) {
  const [name, setName] = useState(value);
  const rename = () => {
    const next = name.trim();
    if (next && next !== value && !taken.includes(next)) onRename(next);
    else setName(value);
  };
  return (
    <Input
      size={isSmall ? 'small' : 'middle'}
      aria-label={label}
      value={name}
      maxLength={60}
      status={taken.includes(name.trim()) ? 'error' : ''}
      onChange={(e) => setName(e.target.value)}
      onBlur={rename}
      onPressEnter={rename}
    />
  );
}
