import { Popover } from 'antd';

/** Why something matters, in two sentences, for whoever asks. */
export const Why = ({ title, why }: { title: string; why: string }) => (
  <Popover content={<p className="why">{why}</p>} trigger="click" placement="bottomLeft">
    <button type="button" className="plain small" aria-label={`Why: ${title}`}>
      Why
    </button>
  </Popover>
);
