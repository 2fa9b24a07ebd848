export {
  parseQuantity,
  quantityTroubleText,
  formatQuantity,
  formatVolts,
  formatOhms,
  formatAmps,
  formatWatts,
  type Unit,
  type QuantityTrouble,
} from './quantity.ts';
