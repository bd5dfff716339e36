export { packedLength, type PackedKind, type PackedLength } from './length';
