<script setup lang="ts">
import { computed } from 'vue'
import { ElMessageBox } from 'element-plus'
import { api, of } from '../../api/client'
import Strip from '../../parts/Strip.vue'
import { moment } from '../../parts/when'
import { atDesk, type DeskDetail } from './useDesk'

/** What lies in the desk's folder otherwise than planned, and what becomes of it. */
type Found = DeskDetail['found'][number]
const { desk, session, toast, fixed, busy, at, doing, take } = atDesk()
const open = computed(() => desk.value!.found.filter(({ left, kind }) => !left && kind !== 'aside'))
const settled = computed(() => desk.value!.found.filter(({ left, kind }) => left || kind === 'aside'))
const WORDS: Record<string, string> = {
  missing: 'missing',
  altered: 'altered',
  foreign: 'personal',
  renamed: 'renamed here',
  'out of order': 'in another order',
  'wrong key': 'on another key',
  aside: 'moved aside when replaced',
}
const TONES: Record<string, string> = { missing: 'missing', altered: 'missing', foreign: 'own' }
const own = (one: Found) => one.kind === 'foreign'
const strip = (one: Found) => `/api/desks/${desk.value!.id}/strip.png?path=${encodeURIComponent(one.path)}`
const file = (one: Found) => (one.kind === 'wrong key' || one.kind === 'out of order' ? 'start.json' : one.path)
const repair = (paths?: string[]) =>
  doing(
    'repair',
    () => of(api.POST('/api/desks/{id}/repair', { ...at(), body: paths ? { paths } : {} })),
    () => 'Repaired. The previous file is in the folder “aside”.',
  )
const decide = (one: Found, decision: 'leave' | 'own' | 'undo' | 'propose', sentence = '') =>
  toast.attempt(async () => {
    const body = { path: one.path, decision, sentence }
    const got = await of(api.POST('/api/desks/{id}/decisions', { ...at(), body }))
    take(got.desk)
    if (got.proposal) toast.done(`“${one.name}” proposed to ${session.library?.name}. A lead decides.`)
  })
async function proposal(one: Found) {
  const words = { confirmButtonText: 'Propose', cancelButtonText: 'Cancel', inputPlaceholder: 'Why (optional)' }
  const asked = await ElMessageBox.prompt(
    'A lead decides; it stays here unchanged.',
    `Propose “${one.name}”`,
    words,
  ).catch(() => undefined)
  if (asked) await decide(one, 'propose', asked.value ?? '')
}
const said = (one: Found) =>
  one.kind === 'renamed'
    ? `now ${String(one.now)}`
    : one.kind === 'wrong key'
      ? `${one.was ?? 'none'}, now ${String(one.now ?? 'none')}`
      : ''
</script>

<template>
  <section aria-label="On disk">
    <div class="line">
      <h2>On disk</h2>
      <span class="soft small">{{ desk!.path }}{{ desk!.found_at ? `, checked ${moment(desk!.found_at)}` : '' }}</span
      ><span class="grow" />
      <el-button
        v-if="!fixed && open.some((one) => !own(one)) && !desk!.away"
        size="small"
        :loading="busy === 'repair'"
        @click="repair()"
        >Repair all</el-button
      >
    </div>
    <p v-if="!open.length" class="soft">
      {{ desk!.sent_at ? 'Everything is as it was sent.' : 'Nothing has been sent to this desk yet.' }}
    </p>
    <article v-for="one in open" :key="one.kind + one.path" :aria-label="one.name ?? one.path">
      <div class="line">
        <span class="kind" :class="TONES[one.kind] ?? 'changed'">{{ WORDS[one.kind] }}</span>
        <b>{{ one.name ?? one.path }}</b><span class="soft small">{{ one.name ? one.path : '' }} {{ said(one) }}</span
        ><span class="grow" />
        <template v-if="session.mayEdit">
          <button v-if="!own(one) && !fixed && !desk!.away" class="plain" @click="repair([file(one)])">Repair</button>
          <button v-if="one.brush" class="plain" @click="proposal(one)">Propose to library…</button>
          <button v-if="one.kind !== 'out of order'" class="plain" @click="decide(one, 'leave')">Ignore</button>
          <button v-if="one.brush" class="plain" @click="decide(one, 'own')">Keep as this desk’s own</button>
        </template>
      </div>
      <div v-if="one.brush" class="strips">
        <span v-if="one.planned" class="small soft"
          ><Strip :fingerprint="one.planned" label="what was sent" />as sent</span
        >
        <span class="small soft"><Strip :src="strip(one)" :label="`${one.name}, as it lies here`" />as it is here</span>
        <span v-if="one.words.length" class="small">{{ one.words.slice(0, 6).join(' · ') }}</span>
      </div>
      <p v-if="one.problem" class="small missing">{{ one.problem }}</p>
    </article>
    <details v-if="settled.length">
      <summary class="soft small">{{ settled.length }} more, ignored or moved aside</summary>
      <div v-for="one in settled" :key="one.kind + one.path" class="line small">
        <span class="soft">{{ one.left ? 'ignored' : WORDS[one.kind] }}</span> {{ one.name ?? one.path }}
        <span class="soft">{{ one.path }}</span><span class="grow" />
        <button v-if="one.left && session.mayEdit" class="plain small" @click="decide(one, 'undo')">
          Stop ignoring
        </button>
        <button v-else-if="one.brush && session.mayEdit" class="plain small" @click="proposal(one)">
          Propose to library…
        </button>
      </div>
    </details>
  </section>
</template>

<style scoped>
article .line {
  flex-wrap: wrap;
}
article {
  padding: 6px 0;
  border-top: 1px solid var(--line);
}
.kind {
  font-weight: 700;
}
.own {
  color: var(--tag-violet);
}
.strips {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 270px));
  gap: 12px;
  max-width: 820px;
  align-items: center;
}
</style>
