/** The name with its mark: a device between two stations on a line. */
export function Wordmark() {
  return (
    <span className="inline-flex items-center gap-2 font-semibold">
      <Sign />
      Iteron
    </span>
  );
}

/** The mark alone. */
export function Sign() {
  return (
    <svg viewBox="0 0 34 16" width="34" height="16" aria-hidden="true">
      <path d="M1 8h32" stroke="currentColor" strokeWidth="2" />
      <circle cx="4" cy="8" r="3.2" fill="currentColor" />
      <circle cx="30" cy="8" r="3.2" fill="currentColor" />
      <rect x="12.5" y="1.5" width="9" height="13" rx="1.5" fill="var(--accent)" />
    </svg>
  );
}
