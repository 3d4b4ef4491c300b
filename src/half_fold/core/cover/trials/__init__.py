"""The cover tried where it will be seen: on a rack, small, from afar, in grey, spine out, as a copy in the hand."""
