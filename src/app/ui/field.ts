/** The look of a field to fill in. */
export const field = 'h-8 w-full rounded-card border border-soft bg-white px-2';
