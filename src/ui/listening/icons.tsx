const PATHS = {
  play: 'M7 4.5v15l12.5-7.5z',
  pause: 'M6.5 5h4v14h-4zM13.5 5h4v14h-4z',
  previous: 'M6 5h2.5v14H6zM19 5v14L9.5 12z',
  next: 'M15.5 5H18v14h-2.5zM5 5v14l9.5-7z',
  note: 'M4 4h16v12h-9l-5 4v-4H4zm3 4v1.8h10V8zm0 3.4v1.8h7v-1.8z',
  check: 'M9.5 16.2 5.3 12l-1.6 1.6 5.8 5.8L20.5 8.4 18.9 6.8z',
  remove: 'M6.4 5 12 10.6 17.6 5 19 6.4 13.4 12l5.6 5.6-1.4 1.4-5.6-5.6L6.4 19 5 17.6l5.6-5.6L5 6.4z',
} as const;

/** A small picture on a button that has a name of its own. */
export function Icon({ name, size = 24 }: { name: keyof typeof PATHS; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden fill="currentColor">
      <path d={PATHS[name]} />
    </svg>
  );
}
