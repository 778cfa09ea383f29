import type { NextConfig } from 'next';

const config: NextConfig = {
  serverExternalPackages: ['sequelize', 'mariadb', 'umzug'],
  poweredByHeader: false,
  reactStrictMode: true,
};

export default config;
