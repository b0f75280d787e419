"""Document to built design: values, blanks, contacts, joints, operations, flats, solids. Stages run strictly in this order."""
