/** A small turning-back arrow. */
export default function ResetIcon() {
  return (
    <svg width="14" height="14" viewBox="0 0 14 14" fill="none" stroke="currentColor" strokeWidth="1.5" aria-hidden>
      <path d="M3 5.2A4.6 4.6 0 1 1 2.4 8M3 1.8v3.6h3.6" />
    </svg>
  );
}
