export { type Axis, type AxisKind, type AxisVariant, type OptionValue, axisKinds } from './model.js';
export { type OrderOptions, orderValues } from './order.js';
export { type MissingCombinations, missingCombinations } from './combinations.js';
export { type AxisAttribute, axesOf, axisKindOf, orderVariants } from './axes.js';
export { type SiblingFault, siblingFaults } from './faults.js';
export {
  type LaidAxis,
  beginningOf,
  combinationsOf,
  layOut,
  newValues,
  numbersOf,
  openCombinations,
  readValueList,
} from './lay-out.js';
export { type Column, columnsOf } from './columns.js';
export { optionOf } from './options.js';
export { differing } from './differs.js';
export { type Rack, type RackHead, type UsedAxis, rackOf, usedAxes } from './rack.js';
export {
  type Option,
  type OptionPlan,
  type PlannedAxis,
  type PlannedValue,
  axisNameSchema,
  isHiddenBy,
  mostAxisValues,
  noPlan,
  optionPlanSchema,
  optionValueSchema,
  optionsBy,
  ordersBy,
  planDifferences,
  plannedAxis,
  plannedValue,
  surchargeBy,
} from './plan.js';
export { type AxisDraft, type ValueDraft, draftPlan, planOf } from './plan-draft.js';
