/** Stands where values will be, before any is known. */
export const Measuring = ({ what = 'Being measured' }: { what?: string }) => (
  <span className="measuring" role="status">
    {what}…
  </span>
);
