/** Whether checks that take long by nature are done at full length (npm run prove), not in the short form of ./test. */
export const AT_LENGTH = process.env.COPPER_AT_LENGTH === 'yes';
