/** The look of what floats over the view. */
export const FLOATING = "rounded-[10px] border border-linen-2 bg-float p-[3px] shadow-float";
/** The same for what has a place of its own there. */
export const FLOAT = `absolute ${FLOATING}`;
