export {
  parseQuantity,
  quantityTroubleText,
  formatQuantity,
  formatVolts,
  formatOhms,
  formatAmps,
  type Unit,
  type QuantityTrouble,
} from './quantity.ts';
