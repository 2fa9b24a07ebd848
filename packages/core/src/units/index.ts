export {
  parseQuantity,
  quantityTroubleText,
  formatQuantity,
  formatChance,
  formatVolts,
  formatOhms,
  formatAmps,
  formatWatts,
  type Unit,
  type QuantityTrouble,
} from './quantity.ts';
