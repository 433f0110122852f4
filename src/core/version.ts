/** Version of everything that decides what a sample becomes or what a measurement says; written into every receipt. */
export const CORE_VERSION = '1.0.0';
