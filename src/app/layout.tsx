import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import './globals.css';

export const metadata: Metadata = {
  title: 'Wide Room',
  description: 'Record voice, see where every sound goes, hand over stems that provably add up.',
};

// Before the first paint, so that the lights never flash.
const LIGHTS = `try{var k=localStorage.getItem('wide-room-lights');document.documentElement.dataset.lights=k||(matchMedia('(prefers-color-scheme: light)').matches?'up':'down')}catch(e){}`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: LIGHTS }} />
        {children}
      </body>
    </html>
  );
}
