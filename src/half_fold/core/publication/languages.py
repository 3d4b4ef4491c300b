"""Languages that can be chosen, with their names."""

LANGUAGES = (
    ("en_GB", "English, British"),
    ("en_US", "English, American"),
    ("de_DE", "German"),
    ("fr_FR", "French"),
    ("nl_NL", "Dutch"),
    ("es_ES", "Spanish"),
    ("it_IT", "Italian"),
    ("pt_PT", "Portuguese"),
    ("sv_SE", "Swedish"),
    ("da_DK", "Danish"),
    ("nb_NO", "Norwegian"),
    ("pl_PL", "Polish"),
    ("he_IL", "Hebrew"),
    ("ar", "Arabic"),
)
