import { ref } from 'vue'
import { ApiError } from '~/services/api'
import { useEditor } from '~/stores/editor'

/**
 * Adds a file to the journey by way of the server.
 * @param upload sends it @param take puts what the server has made of it into the journey; not called where another journey was opened meanwhile
 * @returns `failure`: why the last one could not be added
 */
export function useUpload<Added>(upload: (file: File) => Promise<Added>, take: (added: Added) => void) {
  const editor = useEditor()
  const failure = ref('')
  const isAdding = ref(false)

  async function add(file: File) {
    const { opening } = editor
    failure.value = ''
    isAdding.value = true
    try {
      const added = await upload(file)
      if (editor.opening === opening) take(added)
    } catch (error) {
      if (!(error instanceof ApiError)) throw error
      failure.value = error.message
    } finally {
      isAdding.value = false
    }
  }

  return { failure, isAdding, add }
}
