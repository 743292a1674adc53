import { toast } from "sonner";
import { InputError } from "@/core/schema";

/** Says why a recipe was not kept. */
export const sayRefused = (error: unknown): void =>
  void toast.error(error instanceof InputError ? error.message : "The browser has no room to keep it.");
