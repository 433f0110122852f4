/** The lane as a mark: a ribbon that turns from copper to patina. */
export function Mark({ width = 56 }: { width?: number }) {
  return (
    <svg width={width} height={width / 3.5} viewBox="0 0 56 16" aria-hidden>
      <defs>
        <linearGradient id="mark" x1="0" x2="1">
          <stop offset="0" stopColor="#A8552A" />
          <stop offset="1" stopColor="#2F7F73" />
        </linearGradient>
      </defs>
      <path d="M0 6 C14 6 14 3 28 3 S42 1 56 1 V15 C42 15 42 13 28 13 S14 10 0 10 Z" fill="url(#mark)" />
    </svg>
  );
}
