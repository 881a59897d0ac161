"""Charts in and out: typed counts, MusicXML, MEI."""
