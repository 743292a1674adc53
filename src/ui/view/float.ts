/** The look of what floats over the view. */
export const FLOAT = "absolute rounded-[10px] border border-linen-2 bg-[#fffdf8f5] p-[3px] shadow-float";
