"""From core values to words: every sentence that a person reads is put together here."""
