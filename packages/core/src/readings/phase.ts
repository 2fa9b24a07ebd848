/**
 * When a reading is taken. cold: nothing connected; standby: source on, settled; pressed: button
 * held; trying: the last moment before the board gives up; run: after the press, settled or final.
 */
export const phases = ['cold', 'standby', 'pressed', 'trying', 'run'] as const;
export type Phase = (typeof phases)[number];
export const poweredPhases = ['standby', 'pressed', 'trying', 'run'] as const;
export type PoweredPhase = (typeof poweredPhases)[number];
