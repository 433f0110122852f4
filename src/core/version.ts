/** Version of everything that decides what a sample becomes or what a measurement says; written into every receipt. docs/core-versions.md tells them apart. */
export const CORE_VERSION = '1.1.0';
