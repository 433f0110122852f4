/** Version of everything that decides what a sample becomes or what a measurement says; written into every receipt. docs/core-versions.md says what differs. */
export const CORE_VERSION = '1.3.0';
