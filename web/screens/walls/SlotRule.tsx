import { Input, Slider } from 'antd';
import { useState } from 'react';
import {
  LEAST_SIDE,
  MOST_SIDE,
  type WallRule,
  leavesRoom,
  parsePadding,
  parseSlotSize,
} from '../../../core/wall/wallRule';

interface Props {
  readonly rule: WallRule;
  readonly onPreview: (rule: WallRule | null) => void;
  readonly onRule: (rule: WallRule) => void;
}

/** The slots' size and padding, and how far marks are levelled. */
export function SlotRule({ rule, onPreview, onRule }: Props) {
  const { padding, level } = rule;
  return (
    <section className="wall-part" aria-label="Slots">
      <TypedRow
        label="Slot"
        text={`${rule.widthPx} × ${rule.heightPx} px`}
        read={(text) => {
          const size = parseSlotSize(text);
          const isRoom =
            size &&
            Math.min(size.widthPx, size.heightPx) >= LEAST_SIDE &&
            Math.max(size.widthPx, size.heightPx) <= MOST_SIDE;
          const next = size && { ...rule, ...size };
          return isRoom && next && leavesRoom(next) ? next : null;
        }}
        hint={`Width × height, from ${LEAST_SIDE} to ${MOST_SIDE} px.`}
        onRule={onRule}
      />
      <TypedRow
        label="Padding"
        text={`${padding.value} ${padding.unit}`}
        read={(text) => {
          const own = parsePadding(text);
          const next = own && { ...rule, padding: own };
          return next && leavesRoom(next) ? next : null;
        }}
        hint="Such as 10 % or 12 px; less than half of the slot."
        onRule={onRule}
      />
      <label className="setting-line wall-row">
        <span>Levelling</span>
        <span className="wall-level">
          <Slider
            min={0}
            max={100}
            value={Math.round(level * 100)}
            ariaLabelForHandle="Levelling"
            tooltip={{ open: false }}
            onChange={(v) => onPreview({ ...rule, level: v / 100 })}
            onChangeComplete={(v) => onRule({ ...rule, level: v / 100 })}
          />
          <span className="numbers">{levelWords(level)}</span>
        </span>
      </label>
    </section>
  );
}

const levelWords = (level: number) => (level === 1 ? 'full' : level === 0 ? 'none' : `${Math.round(level * 100)} %`);

interface RowProps {
  readonly label: string;
  readonly text: string;
  readonly hint: string;
  readonly read: (text: string) => WallRule | null;
  readonly onRule: (rule: WallRule) => void;
}

/** A value that is typed; what cannot be read is told and not taken. */
function TypedRow({ label, text, hint, read, onRule }: RowProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const isWrong = typed !== null && read(typed) === null;
  const commit = () => {
    const next = typed === null || typed === text ? null : read(typed);
    if (next) onRule(next);
    setTyped(null);
  };
  return (
    <label className="setting-line wall-row">
      <span>{label}</span>
      <span>
        <Input
          size="small"
          aria-label={label}
          status={isWrong ? 'warning' : ''}
          value={typed ?? text}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={commit}
          onPressEnter={commit}
        />
        {isWrong && <span className="warn small">{hint}</span>}
      </span>
    </label>
  );
}
