/** Kept the same as in package.json; a test says so. */
export const version = '0.1.0'
