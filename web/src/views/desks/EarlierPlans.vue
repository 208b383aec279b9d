<script setup lang="ts">
import { ElMessageBox } from 'element-plus'
import { api, of } from '../../api/client'
import { dated, moment } from '../../parts/when'
import { atDesk } from './useDesk'

/** Every plan that was sent, and the way back to it; and what happened at this desk. */
const { desk, fixed, at, doing } = atDesk()
async function back(plan: number | null) {
  const what = plan === null ? 'as before Fobrel' : `as plan ${plan} was`
  const words = { confirmButtonText: 'Send', cancelButtonText: 'Cancel' }
  const text = 'Sent as a new plan. Personal brushes on the desk stay. The current plan is unchanged.'
  if (!(await ElMessageBox.confirm(text, `Make ${desk.value!.name} ${what}?`, words).catch(() => false))) return
  await doing(
    'back',
    () => of(api.POST('/api/desks/{id}/back', { ...at(), body: { plan } })),
    ({ name }) => `${name} is ${what}.`,
  )
}
</script>

<template>
  <section class="two">
    <div>
      <h2>Previous plans</h2>
      <p v-if="!desk!.plans.length" class="soft">Nothing sent yet.</p>
      <div v-for="(one, index) in desk!.plans" :key="one.number" class="line row">
        <b>{{ one.number }}</b><span>{{ one.before ? 'as before Fobrel' : `${one.count} brushes` }}</span
        ><span class="soft small"
          >{{ dated(one.at) }}, {{ one.by ?? 'somebody' }}{{ one.why ? `: ${one.why}` : '' }}</span
        ><span class="grow" />
        <button v-if="!fixed && index" class="plain" @click="back(one.number)">Send again</button>
      </div>
      <button v-if="!fixed && desk!.plans.length" class="plain" @click="back(null)">
        Restore the folder from before Fobrel…
      </button>
    </div>
    <div>
      <h2>Activity</h2>
      <div v-for="(one, index) in desk!.events" :key="index" class="line row small">
        <span class="soft">{{ moment(one.at) }}</span><b>{{ one.kind }}</b
        ><span>{{ one.said }}</span
        ><span class="soft">{{ one.by }}</span>
      </div>
    </div>
  </section>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(380px, 1fr));
  gap: 24px;
}
.row {
  padding: 4px 0;
  border-top: 1px solid var(--line);
}
</style>
