import { Input } from 'antd';
import { useState } from 'react';

interface Props {
  /** What is named, such as "wall". */
  readonly what: string;
  readonly name: string;
  /** Names that others have. */
  readonly taken?: readonly string[];
  readonly className: string;
  readonly onCommit: (name: string) => void;
}

/** The name of what a screen shows, to be changed where it stands; an empty or taken one goes back. */
export function NameField({ what, name, taken = [], className, onCommit }: Props) {
  const [text, setText] = useState(name);
  const isTaken = taken.includes(text.trim());
  const commit = () => {
    if (text.trim() && text.trim() !== name && !isTaken) onCommit(text.trim());
    else setText(name);
  };
  return (
    <span className={className}>
      <h1 className="visually-hidden">{name}</h1>
      <Input
        variant="borderless"
        aria-label={`Name of the ${what}`}
        status={isTaken ? 'warning' : ''}
        value={text}
        maxLength={200}
        onChange={(e) => setText(e.target.value)}
        onBlur={commit}
        onPressEnter={commit}
      />
      {isTaken && <span className="warn small">There is a {what} of that name.</span>}
    </span>
  );
}
