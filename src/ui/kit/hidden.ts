/** Read by a screen reader, not seen. */
export const HIDDEN = {
  ...{ position: 'absolute', width: '1px', height: '1px', m: '-1px', p: 0 },
  ...{ overflow: 'hidden', clipPath: 'inset(50%)', whiteSpace: 'nowrap', border: 0 },
} as const;
