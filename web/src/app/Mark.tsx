/** Perceptum's sign: a circle of which a third is taken. */
export function Mark() {
  return (
    <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden>
      <circle cx="10" cy="10" r="8.5" fill="none" stroke="currentColor" strokeWidth="2" />
      <path d="M10 10V1.5A8.5 8.5 0 0 1 17.4 14.2Z" fill="currentColor" />
    </svg>
  );
}
