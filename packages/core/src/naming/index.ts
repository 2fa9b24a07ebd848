export {
  namePoint,
  namingIsSure,
  type Naming,
  type NameCandidate,
  type NamingQuestion,
} from './name-point.ts';
export { narrowChoices, type Narrowing } from './narrow-choices.ts';
