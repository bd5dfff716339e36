export * from './quarter';
export * from './meter';
export * from './tempo';
export * from './feel';
