/** The look of what floats over the view. */
export const FLOAT = "absolute rounded-[10px] border border-linen-2 bg-float p-[3px] shadow-float";
