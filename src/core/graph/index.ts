/** Results remembered by what they were made of. */
export {
  declared,
  firstly,
  Graph,
  input,
  part,
  query,
  step,
  task,
  type Ask,
  type Ignoring,
  type Input,
  type Query,
  type Step,
  type Work,
} from "./graph";
export { same } from "./same";
