"""What a photograph of a tray shows: each piece's size and colour, measured on the sheet.

The sheet's four corners say from where it was taken; the plan view is what a camera straight above
would have seen of the sheet's plane; pieces are what differs from the sheet in colour.
"""
