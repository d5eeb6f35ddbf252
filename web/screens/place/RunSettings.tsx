import { Button, Input, InputNumber, Popover, Select, Switch } from 'antd';
import type { PlacementView, RunOptions } from '../../../contract/views';
import { FITS, type Fit, type Placement } from '../../../core/placements/readPlacement';

interface Props {
  readonly placement: PlacementView;
  readonly onRule: (rule: Placement) => void;
  readonly onOptions: (options: RunOptions) => void;
}

const FRAMES = ['1920 × 1080', '3840 × 2160', '1080 × 1920', '1080 × 1080', '640 × 360'];
const formats = [
  { value: 'same', label: 'as the photo' },
  { value: 'jpeg', label: 'JPEG' },
  { value: 'png', label: 'PNG' },
  { value: 'webp', label: 'WebP' },
  { value: 'tiff', label: 'TIFF' },
];
const fits: Record<(typeof FITS)[number], string> = { fill: 'fills it', fit: 'whole inside', stretch: 'pulled to it' };

/** What results are written as, under which names, and in which exact frame. */
export function RunSettings({ placement, onRule, onOptions }: Props) {
  const { options, rule } = placement;
  const set = (change: Partial<RunOptions>) => onOptions({ ...options, ...change });
  const { frame, fit } = rule;
  const setFrame = (next: Placement['frame']) => onRule({ ...rule, frame: next });
  const part = typeof fit === 'object' ? fit : null;
  const content = (
    <div className="place-popover place-settings">
      <label className="place-field">
        Written as
        <Select
          aria-label="Written as"
          style={{ width: 150 }}
          value={options.format}
          options={formats}
          onChange={(format) => set({ format: format as RunOptions['format'] })}
        />
      </label>
      <label className="place-field">
        JPEG quality
        <InputNumber
          aria-label="JPEG quality"
          min={40}
          max={100}
          style={{ width: 150 }}
          value={options.quality}
          onChange={(quality) => quality !== null && set({ quality })}
        />
      </label>
      <label className="place-field">
        JPEG colours
        <Select
          aria-label="JPEG colours"
          style={{ width: 150 }}
          value={options.subsampling ?? ''}
          options={[
            { value: '', label: 'as the photo' },
            { value: '4:4:4', label: 'all, 4:4:4' },
            { value: '4:2:0', label: 'fewer, 4:2:0' },
          ]}
          onChange={(v) => set({ subsampling: (v || undefined) as RunOptions['subsampling'] })}
        />
      </label>
      <label className="place-field">
        Progressive JPEG
        <Switch
          size="small"
          checked={options.isProgressive ?? false}
          onChange={(isProgressive) => set({ isProgressive })}
        />
      </label>
      <label className="place-field">
        Names
        <Input
          aria-label="Names"
          style={{ width: 150 }}
          defaultValue={options.pattern}
          maxLength={120}
          onBlur={(e) => e.target.value.trim() && set({ pattern: e.target.value.trim() })}
        />
      </label>
      <p className="soft small">{'{photo} {mark} {placement}'}</p>
      <label className="place-field">
        Long edge at most
        <InputNumber
          aria-label="Long edge at most"
          min={8}
          max={16_384}
          placeholder="as it is"
          suffix="px"
          style={{ width: 150 }}
          value={options.longEdgePx}
          onChange={(longEdgePx) => set({ longEdgePx })}
        />
      </label>
      <label className="place-field">
        Pass on where it was taken
        <Switch size="small" checked={options.keepsLocation} onChange={(keepsLocation) => set({ keepsLocation })} />
      </label>
      <label className="place-field">
        Exact frame
        <Select
          aria-label="Exact frame"
          style={{ width: 150 }}
          value={frame ? `${frame.width} × ${frame.height}` : ''}
          options={[{ value: '', label: 'the photo’s own' }, ...FRAMES.map((f) => ({ value: f, label: `${f} px` }))]}
          onChange={(text) => {
            const [width, height] = text.split(' × ').map(Number);
            setFrame(text === '' ? null : { width, height, colour: frame?.colour ?? null });
          }}
        />
      </label>
      {frame && (
        <>
          <label className="place-field">
            The photo
            <Select
              aria-label="The photo in the frame"
              style={{ width: 150 }}
              value={part ? 'part' : (fit as string)}
              options={[...FITS.map((f) => ({ value: f, label: fits[f] })), { value: 'part', label: 'fills a part' }]}
              onChange={(next) =>
                onRule({
                  ...rule,
                  fit: next === 'part' ? { x: 0, y: 0, width: frame.width, height: frame.height } : (next as Fit),
                })
              }
            />
          </label>
          {part && (
            <div className="place-four">
              {(['x', 'y', 'width', 'height'] as const).map((key) => (
                <InputNumber
                  key={key}
                  aria-label={`Part of the frame: ${key}`}
                  prefix={key[0]}
                  precision={0}
                  min={key === 'width' || key === 'height' ? 1 : 0}
                  max={16_384}
                  value={part[key]}
                  onChange={(v) => v !== null && onRule({ ...rule, fit: { ...part, [key]: v } })}
                />
              ))}
            </div>
          )}
        </>
      )}
    </div>
  );
  return (
    <Popover trigger="click" placement="bottomRight" content={content}>
      <Button>Files and frame</Button>
    </Popover>
  );
}
