/** Five Gauss–Legendre nodes and weights on [−1, 1]. Source: Abramowitz & Stegun, table 25.4 (values from memory). */
export const GAUSS_NODES = [0, 0.5384693101056831, -0.5384693101056831, 0.906179845938664, -0.906179845938664] as const;
export const GAUSS_WEIGHTS = [0.5688888888888889, 0.47862867049936647, 0.47862867049936647, 0.23692688505618908, 0.23692688505618908] as const;
