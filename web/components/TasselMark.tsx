/** Our own sign: a tassel hanging from its cord. */
export const TasselMark = () => (
  <svg viewBox="0 0 18 26" aria-hidden="true">
    <g fill="none" stroke="currentColor" strokeWidth="1.7" strokeLinecap="round">
      <path d="M9 1v6" />
      <path d="M4.6 14.5 2.6 25M7 14.5 6.2 25M9 14.5V25M11 14.5l.8 10.5M13.4 14.5 15.4 25" />
    </g>
    <circle cx="9" cy="8" r="3.2" fill="currentColor" />
    <rect x="4" y="11.4" width="10" height="3" rx="1.2" fill="currentColor" />
  </svg>
);
