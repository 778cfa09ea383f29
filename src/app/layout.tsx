import '@fontsource-variable/source-sans-3';
import '@fontsource-variable/source-serif-4';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import { AppRouterCacheProvider } from '@mui/material-nextjs/v16-appRouter';
import type { Metadata } from 'next';
import { headers } from 'next/headers';
import type { ReactNode } from 'react';
import { Providers } from '@/features/theme/providers';

export const metadata: Metadata = { title: 'Nimbret', description: 'Walk, run and sneak cycles with feet that hold.' };

export default async function RootLayout({ children }: { children: ReactNode }) {
  const nonce = (await headers()).get('x-nonce') ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <InitColorSchemeScript attribute="data-scheme" defaultMode="light" nonce={nonce} />
        <AppRouterCacheProvider options={nonce ? { nonce } : {}}>
          <Providers>{children}</Providers>
        </AppRouterCacheProvider>
      </body>
    </html>
  );
}
