"""Which ink is which part of the model: variants, arrangements, the warp, and the frame."""
