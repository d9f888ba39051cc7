export { MembersStation } from './MembersStation'
