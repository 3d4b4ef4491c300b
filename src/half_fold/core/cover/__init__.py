"""The cover as one flat: back, spine and front at the worked width."""
