/** The props and surfaces at hand. */
export { Basket, BRING_IN, PROP_DRAG } from "./Basket";
export { Legend } from "./Legend";
export { MixPicture, PropPicture } from "./PropPicture";
export { AnyPicture, RoleChoice, usePropChoices, usePropName } from "./prop-choices";
