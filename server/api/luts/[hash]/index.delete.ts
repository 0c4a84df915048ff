import { deletesFiled } from '../../../http/delete-filed'

export default deletesFiled('luts')
