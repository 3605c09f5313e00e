"""On site: what to look at before the motors run, what to dial in, what to carry in the pocket."""
