<script setup lang="ts">
/** The legend of the drawing's strokes, distinguished by shape, not by color alone. */
import { tr } from '../texts'
defineProps<{ shows: ('stitches' | 'line' | 'ruler' | 'foot' | 'stop' | 'mark' | 'tick' | 'rest' | 'sliver' | 'dot' | 'tape' | 'stencil' | 'edge' | 'sign' | 'done' | 'travel' | 'coming' | 'thread' | 'new thread' | 'hand' | 'freehand')[] }>()
</script>

<template>
  <ul class="key">
    <li v-if="shows.includes('stitches')"><svg width="34" height="10"><path d="M0 5H34" stroke="#2b3a67" stroke-width="1.8" stroke-dasharray="6 2.4" /></svg>{{ tr('planned stitches') }}</li>
    <li v-if="shows.includes('sliver')"><svg width="34" height="10"><path d="M3 5H31" stroke="#b9820f" stroke-opacity=".55" stroke-width="6" stroke-linecap="round" /></svg>{{ tr('a sliver is left') }}</li>
    <li v-if="shows.includes('rest')"><svg width="34" height="10"><path d="M0 5H34" stroke="#8b9098" stroke-width="1" /></svg>{{ tr('not marked') }}</li>
    <li v-if="shows.includes('mark')"><svg width="34" height="10"><path d="M2 5H34" stroke="#b9820f" stroke-width="3.6" stroke-linecap="round" stroke-dasharray="0.1 6.4" /></svg>{{ tr('mark this') }}</li>
    <li v-if="shows.includes('tick')"><svg width="14" height="14"><path d="M7 0V14" stroke="#b9820f" stroke-width="2" /></svg>{{ tr('tick on an edge') }}</li>
    <li v-if="shows.includes('dot')"><svg width="12" height="12"><circle cx="6" cy="6" r="3.6" fill="#b9820f" /></svg>{{ tr('dot') }}</li>
    <li v-if="shows.includes('edge')"><svg width="34" height="10"><path d="M1 5H34" stroke="#1f6f69" stroke-width="2.4" stroke-linecap="round" stroke-dasharray="11 4 1 4" /></svg>{{ tr('the ruler’s edge goes here') }}</li>
    <template v-if="shows.includes('tape')">
      <li><svg width="26" height="12"><rect x="1" y="1.5" width="24" height="9" fill="#f6e7b4" stroke="#b9820f" stroke-width="1.4" /></svg>{{ tr('tape') }}</li>
      <li><svg width="34" height="12"><path d="M0 6H34" stroke="#2b3a67" stroke-width="2.4" stroke-dasharray="8 4" /><path d="M15 1l6 5l-6 5" fill="none" stroke="#2b3a67" stroke-width="2.2" /></svg>{{ tr('sew along its edge, this way') }}</li>
    </template>
    <template v-if="shows.includes('stencil')">
      <li><svg width="16" height="14"><rect x="1" y="1.5" width="14" height="11" fill="#f6e7b4" stroke="#b9820f" stroke-width="1.4" /></svg>{{ tr('stencil') }}</li>
      <li><svg width="16" height="14"><rect x="1" y="1.5" width="14" height="11" fill="none" stroke="#b9820f" stroke-width="1.4" stroke-dasharray="3 2" /></svg>{{ tr('where it was before') }}</li>
    </template>
    <li v-if="shows.includes('done')"><svg width="34" height="10"><path d="M0 5H34" stroke="#2b3a67" stroke-width="3" /></svg>{{ tr('sewn') }}</li>
    <li v-if="shows.includes('coming')"><svg width="34" height="10"><path d="M0 5H34" stroke="#2b3a67" stroke-width="1.4" stroke-dasharray="6 3" /></svg>{{ tr('not sewn yet') }}</li>
    <li v-if="shows.includes('freehand')"><svg width="34" height="12"><path d="M1 10V4a3 3 0 0 1 6 0v4a3 3 0 0 0 6 0V4a3 3 0 0 1 6 0v4a3 3 0 0 0 6 0V4a3 3 0 0 1 6 0v6" fill="none" stroke="#2b3a67" stroke-opacity=".6" stroke-width="1.6" stroke-dasharray="1.5 2.6" stroke-linecap="round" /></svg>{{ tr('freehand, in rows about like these') }}</li>
    <li v-if="shows.includes('travel')"><svg width="34" height="10"><path d="M2 5H34" stroke="#a8392c" stroke-width="3" stroke-linecap="round" stroke-dasharray="0.1 5" /></svg>{{ tr('travelling') }}</li>
    <li v-if="shows.includes('new thread')"><svg width="18" height="16"><circle cx="9" cy="8" r="6.6" fill="#fff" stroke="#a8392c" stroke-width="2" stroke-dasharray="4 3" /></svg>{{ tr('a new thread') }}</li>
    <li v-if="shows.includes('thread')"><svg width="28" height="14"><circle cx="7" cy="7" r="4.6" fill="#fff" stroke="#a8392c" stroke-width="2" /><rect x="18" y="3" width="8" height="8" fill="#a8392c" /></svg>{{ tr('thread starts, ends') }}</li>
    <li v-if="shows.includes('sign')"><svg width="22" height="12"><path d="M1 6Q6 -3 11 6T21 6" fill="none" stroke="#6b4a05" stroke-width="2" /></svg>{{ tr('texture for this area') }}</li>
    <li v-if="shows.includes('line')"><svg width="34" height="10"><path d="M0 5H34" stroke="#a8392c" stroke-width="3" stroke-dasharray="13 5" /></svg>{{ tr('this line') }}</li>
    <li v-if="shows.includes('ruler')"><svg width="22" height="14"><rect x="1" y="1" width="20" height="12" fill="#2f9c95" fill-opacity=".3" stroke="#1f6f69" /></svg>{{ tr('ruler') }}</li>
    <li v-if="shows.includes('foot')"><svg width="16" height="16"><circle cx="8" cy="8" r="6" fill="#fff6f3" stroke="#a8392c" stroke-width="2" /></svg>{{ tr('foot') }}</li>
    <li v-if="shows.includes('hand')"><svg width="12" height="12"><rect x="2" y="2" width="8" height="8" fill="#fffcf6" stroke="#1f6f69" stroke-width="2" /></svg>{{ tr('move your hand') }}</li>
    <li v-if="shows.includes('stop')"><svg width="12" height="12"><rect x="2" y="2" width="8" height="8" fill="#fff" stroke="#a8392c" stroke-width="2" /></svg>{{ tr('needle stops') }}</li>
  </ul>
</template>

<style scoped>
.key { color: #1e2733; display: flex; flex-wrap: wrap; gap: 4px 18px; list-style: none; padding: 3px 12px; border: 1px solid var(--rule); border-radius: 10px; background: rgb(255 252 246 / 94%); font-size: 13px; width: fit-content; }
li { display: flex; align-items: center; gap: 7px; white-space: nowrap; }
</style>
