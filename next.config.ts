import type { NextConfig } from 'next';

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked once, by `npm test`, over everything and not only over what is bundled.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: [
    'libflacjs',
    '@wasm-audio-decoders/flac',
    '@electric-sql/pglite',
    'pino',
    'proper-lockfile',
    'yazl',
    'pdfmake',
    'pg-boss',
    'piscina',
    '@aws-sdk/client-s3',
    '@aws-sdk/lib-storage',
  ],
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
  headers: async () => [
    {
      source: '/:path*',
      headers: [
        { key: 'Cross-Origin-Opener-Policy', value: 'same-origin' },
        { key: 'Cross-Origin-Embedder-Policy', value: 'require-corp' },
        { key: 'Cross-Origin-Resource-Policy', value: 'same-origin' },
        { key: 'X-Content-Type-Options', value: 'nosniff' },
        { key: 'Referrer-Policy', value: 'no-referrer' },
        { key: 'X-Frame-Options', value: 'DENY' },
      ],
    },
  ],
};

export default config;
