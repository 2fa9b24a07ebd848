/**
 * Numbers that decide about powering, injecting, charging and heating. Each says where it comes from; a
 * table test holds each at both sides of its edge.
 */

// Injecting a limited current into a shorted rail. Common practice, no source.

/** Volts that wake nothing and drive no junction hard. */
export const gentleVolts = 1;
/** No lead, pad or trace of a rail is asked for more amps. */
export const mostInjectedAmps = 5;
/** A part that takes this many watts burns; it is seen long before. */
export const mostPartWatts = 5;
/** A short of so many ohms or more is a leak: current does not find it. */
export const leakOhms = 200;
/** A net lifted so far above its own volts is in danger. */
export const overVolts = 0.3;
/** A net that a feed lifts to more than this is driven by it. */
export const drivenVolts = 0.3;
/** The limit of a supply that feeds one rail while the board is on, in amps. */
export const liveAmps = 0.5;
/** A rail that reads less volts is not being made; a floating one shows tenths. */
export const offVolts = 0.3;

// Powering a board.

/**
 * Limits of a supply where nobody knows what the board draws, in amps: laptop boards mostly stay below a
 * quarter of an amp at rest and start within two (common practice, no source).
 */
export const guessedLimits = { standby: 0.3, pressed: 2 };
/** The limit over the draw of the healthy board, and the least that is set. Common practice, no source. */
export const standbyLimit = { times: 3, leastAmps: 0.1 };
export const pressedLimit = { times: 1.3, leastAmps: 0.3 };
/** A draw is as expected within these parts of it and amps beside. Common practice, no source. */
export const drawBand = { more: 1.33, moreAmps: 0.01, less: 0.67, lessAmps: 0.003 };
/**
 * Seconds a processor may run with its cooler off before the source goes off: it passes its limit of
 * about 100 °C within seconds (common practice, no source; the time constant of a bare die is about a
 * second, from memory).
 */
export const coolerOffSeconds = 5;
/** From so many seconds on, what is left is said loudly. */
export const coolerWarnSeconds = 2;

// Charging. Lithium cells are charged by their own charger or not at all.

/** What a charger is taken to be set to where nobody knows, in amps: half of a small pack's capacity an hour (common practice, no source). */
export const guessedChargeAmps = 2;
/** A pre-charge where nobody knows: a tenth of the full current (common practice, no source). */
export const guessedPrechargePart = 0.1;
/** Watts into the battery of watts into the charger: a switching converter of 85 % (a usual figure, from memory). */
export const chargerEfficiency = 0.85;
/** Battery volts where nobody knows them, of the source's: three cells on 19 V (common practice, no source). */
export const guessedBatteryPart = 0.6;
/** More than so much of what the charger is set to, and an error of the meter, is a fault. */
export const overCharge = { times: 1.15, amps: 0.02 };
/** Less amps than this is nothing. */
export const leastChargeAmps = 0.01;
/** Up to so many times the pre-charge, it is still one. */
export const prechargeTimes = 1.5;

// Times in which nothing is as usual.

/**
 * Minutes after all power was gone (cell, battery or settings) in which restarts and a dark screen are
 * normal: memory is trained and settings are written anew, with restarts between (common practice, no
 * source).
 */
export const graceMinutes = 10;

// Readings nobody expects.

/** Volts above so many times the sheet's highest are asked for once more before they are taken. */
export const oddVoltsTimes = 1.5;
