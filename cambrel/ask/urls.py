from django.urls import path

from cambrel.ask import views

app_name = "ask"
urlpatterns = [
    path("ask/", views.ask, name="ask"),
    path("ask.json", views.ask_json, name="json"),
    path("ask/questions/", views.questions, name="questions"),
    path("ask/answered/", views.answered, name="answered"),
]
