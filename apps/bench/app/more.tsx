export { More as default } from '../src/features/more/more';
