import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'mariadb', 'umzug'],
  poweredByHeader: false,
  reactStrictMode: true,
  // Types are checked by the tests; who only builds need not wait for them.
  typescript: { ignoreBuildErrors: true },
};

export default config;
