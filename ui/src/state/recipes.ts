/** The quilter's own catalog of fills, and settings copied from one zone to another. */
import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import { api, Problem, type Views } from '../api/client'
import { useQuilt } from './quilt'
import { tr } from '../texts'

type Fill = Record<string, unknown>

export const useRecipes = defineStore('recipes', () => {
  const quilt = useQuilt()
  const list = shallowRef<Views['RecipeView'][]>()
  const trouble = ref('')
  /** settings copied from a zone, to paste into others */
  const held = shallowRef<{ fill: Fill; label: string; from: string }>()

  async function tell(ask: () => Promise<Views['RecipesView']>) {
    trouble.value = ''
    try {
      list.value = (await ask()).recipes
      return true
    } catch (error) {
      if (!(error instanceof Problem)) throw error
      trouble.value = error.message
      return false
    }
  }
  const load = () => tell(api.recipes)
  const keep = (name: string, fill: Fill) => tell(() => api.keepRecipe({ name, fill: fill as Views['KeepRecipe']['fill'], unit: quilt.unit }))
  const forget = (name: string) => tell(() => api.deleteRecipe(name))
  async function bring(file: File) {
    let book: Record<string, unknown>
    try {
      book = JSON.parse(await file.text()) as Record<string, unknown>
    } catch {
      trouble.value = tr('This file holds no recipes: it is not JSON.')
      return false
    }
    return tell(() => api.importRecipes({ book }))
  }
  return { list, trouble, held, load, keep, forget, bring }
})
