import { deletesFiled } from '../../../http/delete-filed'

export default deletesFiled('fonts')
