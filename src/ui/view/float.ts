/** The look of what floats over the view, and where it has a place of its own there. */
export const FLOATING = "rounded-[10px] border border-linen-2 bg-float p-[3px] shadow-float";
export const FLOAT = `absolute ${FLOATING}`;
