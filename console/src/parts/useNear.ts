import { onMounted, onUnmounted, type Ref, ref, type ShallowRef } from 'vue';

/** So near the part of the page that is seen, pictures are drawn already. */
const MARGIN = '400px';

/** Whether an element has come near what is seen of the page: what costs much to draw waits until then, and stays. */
export function useNear(element: Readonly<ShallowRef<HTMLElement | null>>): Readonly<Ref<boolean>> {
  const isNear = ref(false);
  const observer = new IntersectionObserver(
    (entries) => {
      if (!entries.some(({ isIntersecting }) => isIntersecting)) return;
      isNear.value = true;
      observer.disconnect();
    },
    { rootMargin: MARGIN },
  );
  onMounted(() => {
    if (element.value) observer.observe(element.value);
  });
  onUnmounted(() => observer.disconnect());
  return isNear;
}
