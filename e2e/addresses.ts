/** With the demo's first student. */
export const PORT = 4199;
/** With nothing: what a test takes in is the first thing that is measured. */
export const EMPTY_PORT = 4198;

export const ADDRESS = `http://127.0.0.1:${PORT}`;
export const EMPTY = `http://127.0.0.1:${EMPTY_PORT}`;
