import type { NextConfig } from 'next';

/** Shared memory between page, worker and worklet needs an isolated origin. What pages may load is in src/proxy.ts. */
const SECURITY_HEADERS = [
  { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
  { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
  { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
  { key: 'X-Content-Type-Options', value: 'nosniff' },
  { key: 'Referrer-Policy', value: 'same-origin' },
  { key: 'Permissions-Policy', value: 'camera=(), geolocation=(), microphone=(), payment=(), usb=()' },
];

const config: NextConfig = {
  reactStrictMode: true,
  poweredByHeader: false,
  devIndicators: false,
  // What is asked for is loaded then: a server that starts again answers sooner.
  experimental: { preloadEntriesOnStart: false },
  // The lint step checks types, over the tests too.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ['@node-rs/argon2', 'knex', 'pdfkit', 'pg', 'pino'],
  turbopack: {
    root: import.meta.dirname,
    rules: { '*.worklet.ts': { loaders: ['./build/worklet-loader.cjs'], as: '*.js' } },
  },
  headers: () => Promise.resolve([{ source: '/:path*', headers: SECURITY_HEADERS }]),
};

export default config;
