"""From core values to words: every sentence on screens and paper is composed here."""
