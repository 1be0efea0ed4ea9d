export * from './past';
export { toFollowUps, toRegister } from './routes';
