"""The typed API: one router a resource."""

from ninja import NinjaAPI
from ninja.security import django_auth

from zygon_server.accounts.api import router as accounts
from zygon_server.body import Body
from zygon_server.designs.api import router as designs
from zygon_server.designs.drawing_api import router as drawings
from zygon_server.designs.export_api import router as exports
from zygon_server.designs.form_api import router as forms
from zygon_server.designs.joint_api import router as joints
from zygon_server.designs.move_api import router as moves
from zygon_server.designs.paper_api import router as papers
from zygon_server.designs.picture_api import router as pictures
from zygon_server.designs.placing_api import router as placing
from zygon_server.designs.program_api import router as programs
from zygon_server.designs.range_api import router as ranges
from zygon_server.elsewhere.api import router as elsewhere
from zygon_server.errors import register
from zygon_server.machines.api import router as machines
from zygon_server.nesting.api import router as nesting
from zygon_server.nesting.batch_api import router as batches
from zygon_server.workshop.api import router as workshop

api = NinjaAPI(title="Zygon", version="1", auth=django_auth, urls_namespace="api", docs_url=None, parser=Body())
register(api)
api.add_router("", accounts)
api.add_router("", workshop)
api.add_router("/designs", designs)
api.add_router("", forms)
api.add_router("/designs", joints)
api.add_router("/designs", moves)
api.add_router("/designs", drawings)
api.add_router("/designs", papers)
api.add_router("/designs", programs)
api.add_router("/designs", ranges)
api.add_router("/designs", pictures)
api.add_router("/designs", placing)
api.add_router("/designs", exports)
api.add_router("/designs", nesting)
api.add_router("/batches", batches)
api.add_router("", machines)
api.add_router("", elsewhere)
