/** The demo account, which anyone may open while its data is present. */
export const DEMO = { email: 'demo@copperlane.example', password: 'slow-orbits', name: 'Demo engineer' } as const;
