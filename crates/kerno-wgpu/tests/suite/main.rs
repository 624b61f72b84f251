//! Tests of the GPU renderer, by its public interface. They need a graphics adapter; the
//! software one is enough, and without any they fail.

mod gpu;
mod pixels;
mod targets;
