/** For a fault that has no sentence of its own. */
const OUR_FAULT = 'Something went wrong on our side. Reload the page and try again; what was saved is safe.';

/**
 * The sentence of an error that was thrown for a person. What a script, a parser or a browser throws has a name of its own
 * and is no text for a screen: it gives `otherwise`.
 */
export function sentenceOf(error: unknown, otherwise = OUR_FAULT): string {
  return error instanceof Error && error.name === 'Error' && error.message !== '' ? error.message : otherwise;
}
