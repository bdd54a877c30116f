"""Every sentence the program says: from messages of the core, which are kinds and fields, to the language that is set."""
