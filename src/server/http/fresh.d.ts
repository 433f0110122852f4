declare module 'fresh' {
  /** Whether what a client has is still good (RFC 9110, 13.1), by its request's headers and those of the answer. */
  export default function fresh(
    request: Record<string, string>,
    answer: { etag?: string; 'last-modified'?: string },
  ): boolean;
}
