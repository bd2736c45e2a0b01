//! Which instructions a loop over columns is compiled to.

/// Runs a loop, which is compiled for several instruction sets, with the widest that the processor has; without the
/// feature `dispatch` it is compiled once, for those that every processor of its kind has.
#[inline]
pub(super) fn with_widest_instructions<L: Loop>(work: L) {
    #[cfg(feature = "dispatch")]
    pulp::Arch::new().dispatch(Dispatched(work));
    #[cfg(not(feature = "dispatch"))]
    work.run();
}

/// A loop over columns; its `run` is marked `inline(always)`, as all that it calls, so that the instructions reach it.
pub(super) trait Loop {
    fn run(self);
}

#[cfg(feature = "dispatch")]
struct Dispatched<L>(L);

#[cfg(feature = "dispatch")]
impl<L: Loop> pulp::WithSimd for Dispatched<L> {
    type Output = ();

    #[inline(always)]
    fn with_simd<S: pulp::Simd>(self, _: S) {
        self.0.run();
    }
}
