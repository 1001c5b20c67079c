/** An entry of more minutes makes a manager look twice. */
export const LONG_MINUTES = 300;
