<script setup lang="ts">
import { useClipboard } from '@vueuse/core'
import { ref } from 'vue'
import { api, of } from '../../api/client'
import FormDialog from '../../parts/FormDialog.vue'
import { useDeed } from '../../parts/useDeed'
import { useLibrary } from '../../stores/library'
import { useSession } from '../../stores/session'

/** Makes a link that lets one person in; it is shown once. */
const emit = defineEmits<{ close: [] }>()
const library = useLibrary()
const session = useSession()
const name = ref('')
const role = ref<'guest' | 'artist' | 'lead'>('artist')
const link = ref('')
const { copy, copied } = useClipboard({ legacy: true })
const { busy, problem, go } = useDeed(async () => {
  const body = { role: role.value, name: name.value }
  const { path } = await of(api.POST('/api/libraries/{library}/invitations', { ...library.path(), body }))
  link.value = location.origin + path
})
const submit = () => (link.value ? copy(link.value) : go())
</script>

<template>
  <FormDialog
    :title="`Invite somebody into ${session.library?.name}`"
    :deed="link ? (copied ? 'Copied' : 'Copy link') : 'Create link'"
    :cancel="link ? 'Close' : 'Cancel'"
    :busy="busy"
    :problem="problem"
    @submit="submit"
    @close="emit('close')"
  >
    <template v-if="link">
      <p>
        Send this link to {{ name || 'them' }}. It’s shown only once, works for one person, and is valid for seven days.
      </p>
      <p class="link" role="status">{{ link }}</p>
    </template>
    <template v-else>
      <label>Name<el-input v-model="name" placeholder="for your list only" maxlength="60" /></label>
      <el-radio-group v-model="role" aria-label="Role">
        <el-radio value="guest">Guest: view and download</el-radio>
        <el-radio value="artist">Artist: edit brushes and propose new ones</el-radio>
        <el-radio value="lead">Lead: full control, people and desks included</el-radio>
      </el-radio-group>
    </template>
  </FormDialog>
</template>

<style scoped>
.link {
  padding: 8px 12px;
  border-radius: 7px;
  background: var(--accent-wash);
  overflow-wrap: anywhere;
  user-select: all;
}
.el-radio-group {
  display: grid;
  justify-items: start;
}
</style>
