import { DAYLIGHT } from '../theme/palette';

/** What every manifest says of an installed page. */
export const INSTALLED = {
  display: 'standalone' as const,
  ...{ background_color: DAYLIGHT.paper, theme_color: DAYLIGHT.raised },
  icons: [
    { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
    { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
    { src: '/icon-maskable-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' as const },
  ],
};
